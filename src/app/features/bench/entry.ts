// What is loaded when a project is opened.
export { ProjectGate } from '../../desk/ProjectGate.tsx';
export { benchSlice } from '../../state/benchSlice.ts';
export { BenchPage } from './BenchPage.tsx';
