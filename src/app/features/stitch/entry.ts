// What is loaded when frames are stitched.
export { StitchPage } from './StitchPage.tsx';
export { stitchSlice } from './stitchSlice.ts';
