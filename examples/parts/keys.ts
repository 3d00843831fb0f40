import { useEffect, useRef } from 'react';

/** Keys that hold on the whole page, but not where they mean something else: in fields, lists of choices and tabs. */
export function useKeys(keys: Record<string, () => void>): void {
  const latest = useRef(keys);
  latest.current = keys;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const busy = (event.target as Element).closest?.(
        'input, select, textarea, [role="tablist"], [role="application"]',
      );
      const act = latest.current[event.key.length === 1 ? event.key.toLowerCase() : event.key];
      if (busy || !act || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
