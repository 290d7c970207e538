export { clearing as computation } from '../../rebuild/clearing.ts';
