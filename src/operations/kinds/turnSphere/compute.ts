export { nothingComputed as computation } from '../../carriedOnly.ts';
