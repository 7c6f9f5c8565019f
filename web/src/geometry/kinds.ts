/** Ends a choice among kinds: it does not compile while one of them is left out. */
export function never(kind: never): never {
  throw new Error(`there is no way to go on with ${JSON.stringify(kind)}`);
}
