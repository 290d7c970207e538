// Compiles the kernels unless nothing they are made of has changed.
import { buildKernels } from './prepare.mjs';

buildKernels();
