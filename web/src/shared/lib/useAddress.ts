import { useSearchParams } from "react-router";

type Changes = Record<string, string | undefined>;

interface Options {
  /** Replaces the entry in the browser's history, for values that change with each key. */
  replace?: boolean;
}

/**
 * The state that a page keeps in its address, and a way to change some of it. What is set to an
 * empty value is removed; names that are not in the changes stay as they are.
 */
export function useAddress(): [URLSearchParams, (changes: Changes, options?: Options) => void] {
  const [params, setParams] = useSearchParams();
  return [
    params,
    (changes, options) =>
      setParams(
        (before) => {
          const next = new URLSearchParams(before);
          for (const [name, value] of Object.entries(changes)) {
            if (value) next.set(name, value);
            else next.delete(name);
          }
          return next;
        },
        { replace: options?.replace ?? false },
      ),
  ];
}
