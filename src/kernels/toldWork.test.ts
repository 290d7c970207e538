import { createWasmKernels } from './wasmKernels.ts';
import { hear, tell, wordsAt } from './toldWork.ts';

const { scratch } = createWasmKernels();
/** What another thread hears of it. */
function heard(input: unknown): unknown {
  const words = tell({ name: 'copy', input })!;
  const told = scratch.bytes(words.length);
  told.set(words);
  const { name, input: arrived } = hear(told.buffer, wordsAt(told.buffer, told.byteOffset, told.length));
  expect(name).toBe('copy');
  return arrived;
}

test('arrays of the shared memory arrive as the same memory, everything else as it is', () => {
  const [bytes, floats] = [scratch.bytes(3), scratch.floats(2)];
  bytes[2] = 9;
  const arrived = heard({ box: { x: 1.5, flags: [true, false] }, kind: 'shifted', bytes, deep: { floats } }) as {
    bytes: Uint8Array;
    deep: { floats: Float32Array };
  };
  expect(arrived).toEqual({ box: { x: 1.5, flags: [true, false] }, kind: 'shifted', bytes, deep: { floats } });
  arrived.deep.floats[1] = 0.25;
  expect(floats[1]).toBe(0.25);
});

test('numbers that JSON has no word for arrive, too', () => {
  expect(heard([NaN, Infinity, -Infinity])).toEqual([NaN, Infinity, -Infinity]);
});

test('what other threads can’t reach or run is not told', () => {
  expect(tell({ name: 'copy', input: { bytes: new Uint8Array(3) } })).toBeUndefined();
  expect(tell({ name: 'copy', input: { sample: () => true } })).toBeUndefined();
});
