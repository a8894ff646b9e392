import { useSearchParams } from "react-router";

/** What the address says, and a way to change some of it; what is set to nothing goes. */
export function useAddress(): [URLSearchParams, (changes: Record<string, string>) => void] {
  const [params, setParams] = useSearchParams();
  return [
    params,
    (changes) => {
      const next = new URLSearchParams(params);
      for (const [name, value] of Object.entries(changes)) {
        if (value) next.set(name, value);
        else next.delete(name);
      }
      setParams(next);
    },
  ];
}
