// OpenCV calls itself a promise without being one: awaiting it, or a module that is nothing but it, never ends. Behind a
// module of our own it can be loaded when it is needed.
export { default as cv } from '@techstark/opencv-js';
