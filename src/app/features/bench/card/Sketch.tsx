import type { ReactNode } from 'react';

/** A small drawing of what happens: on a shelf, or on something of its own. */
export const Sketch = ({ children, shelf = 'M3 29h58' }: { children: ReactNode; shelf?: string }) => (
  <svg width="52" height="28" viewBox="0 0 64 34" fill="none" stroke="currentColor" strokeWidth="1.5" aria-hidden>
    <path d={shelf} />
    {children}
  </svg>
);

/** A jar on the shelf; empty: where it stood. */
export const Jar = ({ x, empty }: { x: number; empty: boolean }) => (
  <path
    d={`M${x - 4} 6h8m-7 0c0 6-5 6-5 13 0 5 2 10 3 10h10c1 0 3-5 3-10 0-7-5-7-5-13`}
    fill={empty ? 'none' : 'currentColor'}
    fillOpacity={0.28}
    strokeDasharray={empty ? '1.5 3' : undefined}
  />
);
