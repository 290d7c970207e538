import type { What } from '../draft.ts';

/** A small drawing of what happens to a jar on a shelf: gone, put elsewhere, or there twice. */
export function WhatDrawing({ what }: { what: What }) {
  return (
    <svg width="64" height="34" viewBox="0 0 64 34" fill="none" stroke="currentColor" strokeWidth="1.5" aria-hidden>
      <path d="M3 29h58" />
      <Jar x={14} empty={what !== 'duplicate'} />
      {what !== 'clear' && <Jar x={46} empty={false} />}
      {what === 'move' && <path d="M24 12h13m-4-4 4 4-4 4" />}
    </svg>
  );
}

const Jar = ({ x, empty }: { x: number; empty: boolean }) => (
  <path
    d={`M${x - 4} 6h8m-7 0c0 6-5 6-5 13 0 5 2 10 3 10h10c1 0 3-5 3-10 0-7-5-7-5-13`}
    fill={empty ? 'none' : 'currentColor'}
    fillOpacity={0.28}
    strokeDasharray={empty ? '1.5 3' : undefined}
  />
);
