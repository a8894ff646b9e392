import { useEffect, useRef, useState } from "react";

const PREFIX = "mandala.kept.";

/** The state of a form, and what becomes of it. */
export interface Kept<T> {
  value: T;
  setValue: (next: T | ((before: T) => T)) => void;
  /** Whether it differs from what the form began with. */
  changed: boolean;
  /** Whether it was kept from before. */
  restored: boolean;
  /** Forgets what was typed and begins anew. */
  reset: () => void;
  /** Forgets what was typed, since it was sent or given up. */
  forget: () => void;
}

function read(key: string): unknown {
  const text = sessionStorage.getItem(PREFIX + key);
  try {
    return text === null ? undefined : JSON.parse(text);
  } catch {
    return undefined; // nothing that this version wrote
  }
}

/**
 * The state of a form that outlives the page: what was typed is there again when the form is opened
 * the next time in this window, until it is sent or given up.
 *
 * @param key names the form and what it is about
 * @param first what the form begins with; can be written as JSON
 */
export function useKept<T>(key: string, first: () => T): Kept<T> {
  const [initial] = useState(first);
  const [found] = useState(() => read(key) as T | undefined);
  const [value, setValue] = useState<T>(found ?? initial);
  const [restored, setRestored] = useState(found !== undefined);
  const over = useRef(false);
  const changed = JSON.stringify(value) !== JSON.stringify(initial);
  useEffect(() => {
    if (over.current || !changed) sessionStorage.removeItem(PREFIX + key);
    else sessionStorage.setItem(PREFIX + key, JSON.stringify(value));
  }, [key, value, changed]);
  return {
    value,
    setValue,
    changed,
    restored,
    reset: () => {
      setValue(initial);
      setRestored(false);
    },
    forget: () => {
      over.current = true;
      sessionStorage.removeItem(PREFIX + key);
    },
  };
}
