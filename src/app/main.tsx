import { createRoot } from 'react-dom/client';
import { serialiseError } from '../core/errors.ts';
import { openDatabase } from '../storage/database.ts';
import { App } from './App.tsx';
import { sweepDeleted } from './features/projects/projectActions.ts';
import { createAppStore } from './store/store.ts';

const root = createRoot(document.getElementById('root')!);

try {
  const db = await openDatabase();
  root.render(<App store={createAppStore()} db={db} />);
  // What is deleted is not listed: it goes while the page is there already, or the next time.
  void sweepDeleted(db).catch(() => undefined);
} catch (error) {
  root.render(<p role="alert">{serialiseError(error).message}</p>);
}
