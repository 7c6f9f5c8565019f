import type { QueryClient, QueryKey } from "@tanstack/react-query";

const counts = new Map<string, number>();
const countOf = (key: QueryKey) => counts.get(JSON.stringify(key)) ?? 0;

/** Keeps the answer to a change; what was asked for before it came says nothing new. */
export function keepAnswer<T>(client: QueryClient, key: QueryKey, answer: T): void {
  counts.set(JSON.stringify(key), countOf(key) + 1);
  client.setQueryData(key, answer);
}

/** What is asked for; or what a change was answered with meanwhile, for that is newer. */
export async function askedFor<T>(client: QueryClient, key: QueryKey, ask: () => Promise<T>): Promise<T> {
  const before = countOf(key);
  const found = await ask();
  return countOf(key) === before ? found : (client.getQueryData<T>(key) ?? found);
}
