import type { RunOnLine } from '../../core/lines/runOnLine.ts';
import type { RunOnParams } from './rebuildSchema.ts';

export const shiftedLine = (line: RunOnParams, dx: number, dy: number): RunOnParams => ({
  ...line,
  points: line.points.map((p) => ({ x: p.x + dx, y: p.y + dy })),
});

/** A line of the core, moved by whole px; on. */
export const movedLine = ({ points, widths }: RunOnLine, dx: number, dy: number): RunOnParams =>
  shiftedLine({ points: [...points], widthsPx: [...widths], on: true }, dx, dy);
