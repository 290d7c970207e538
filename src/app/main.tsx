import { createRoot } from 'react-dom/client';
import { serialiseError } from '../core/errors.ts';
import { openDatabase } from '../storage/database.ts';
import { App } from './App.tsx';
import { sweepDeleted } from './features/projects/projectActions.ts';
import { createAppStore } from './store/store.ts';

const root = createRoot(document.getElementById('root')!);

try {
  const db = await openDatabase();
  await sweepDeleted(db);
  root.render(<App store={createAppStore()} db={db} />);
} catch (error) {
  root.render(<p role="alert">{serialiseError(error).message}</p>);
}
