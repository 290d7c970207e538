import type { What } from '../draft.ts';

/** A small drawing of what happens to a jar on a shelf, to the shelf, or to a place on it. */
export function WhatDrawing({ what }: { what: What }) {
  return (
    <svg width="52" height="28" viewBox="0 0 64 34" fill="none" stroke="currentColor" strokeWidth="1.5" aria-hidden>
      <path d={what === 'lengthen' ? 'M3 29h26' : 'M3 29h58'} />
      {what === 'lengthen' && <path d="M29 29h32" strokeDasharray="3 3" />}
      {what === 'lengthen' && <path d="M36 20h18m-4-4 4 4-4 4" />}
      {what === 'borrow' && <path d="M40 13H27m4-4-4 4 4 4M8 20l6-5 6 5v8H8z" strokeDasharray="1.5 3" />}
      {what === 'borrow' && <path d="M46 20l6-5 6 5v8H46z" fill="currentColor" fillOpacity={0.28} />}
      {isWithJars(what) && <Jar x={14} empty={what !== 'duplicate'} />}
      {isWithJars(what) && what !== 'clear' && <Jar x={46} empty={false} />}
      {what === 'move' && <path d="M24 12h13m-4-4 4 4-4 4" />}
    </svg>
  );
}

const isWithJars = (what: What): boolean => what === 'clear' || what === 'move' || what === 'duplicate';

const Jar = ({ x, empty }: { x: number; empty: boolean }) => (
  <path
    d={`M${x - 4} 6h8m-7 0c0 6-5 6-5 13 0 5 2 10 3 10h10c1 0 3-5 3-10 0-7-5-7-5-13`}
    fill={empty ? 'none' : 'currentColor'}
    fillOpacity={0.28}
    strokeDasharray={empty ? '1.5 3' : undefined}
  />
);
