import { createContext, useContext } from 'react';
import type { FingoDatabase } from '../../storage/database.ts';

export const DatabaseContext = createContext<FingoDatabase | undefined>(undefined);

export function useDatabase(): FingoDatabase {
  const db = useContext(DatabaseContext);
  if (!db) throw new Error('Used before the database is open.');
  return db;
}
