import { startTransition, useEffect, useState } from 'react';

/** About as many cards as fill a large screen. */
const AT_ONCE = 12;

/** The first items at once, further ones as soon as the page has been painted with those before them. */
export function useGrowing<Item>(items: readonly Item[]): readonly Item[] {
  const [count, setCount] = useState(AT_ONCE);
  useEffect(() => {
    if (count >= items.length) return;
    const timer = setTimeout(() => startTransition(() => setCount(count + AT_ONCE)), 0);
    return () => clearTimeout(timer);
  }, [count, items.length]);
  return items.slice(0, count);
}
