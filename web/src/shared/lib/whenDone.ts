/**
 * Goes on when an act has succeeded. Of one that failed nothing more is done: the page shows why.
 */
export function whenDone<T>(act: Promise<T>, next: (result: T) => void): Promise<void> {
  return act.then(next, () => undefined);
}
