import { QueryClient, type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { Problem, underNumber } from "./client";
import { newId } from "./newId";

/** How often the board and the bench look for news by themselves, while the server cannot tell them, and while it can. */
export const LOOK_AGAIN_MS = 2000;
export const LIVE_MS = 20_000;

export const queries = new QueryClient({
  defaultOptions: {
    // A service worker may answer while the network is away, and a refusal is better than waiting in silence.
    mutations: { networkMode: "always" },
    queries: {
      networkMode: "always",
      staleTime: 1000,
      retry: (failures, error) => failures < 3 && error instanceof Problem && error.passing && !error.forThisVisitor,
      refetchOnWindowFocus: true,
    },
  },
});

/**
 * Fetch what is shown anew after a change. What is asked for the first time just then may be from before the change, and the
 * library does not ask twice for what it has not yet: it is asked for again when it is there.
 */
export async function fetchAnew(client: QueryClient, filters: { queryKey?: QueryKey } = {}): Promise<void> {
  const first = client.getQueryCache().findAll({ ...filters, fetchStatus: "fetching" });
  await Promise.allSettled(first.filter(({ state }) => state.data === undefined).map(({ promise }) => promise));
  await client.invalidateQueries(filters);
}

/** The address of something of one lab. */
export const ofLab = (id: string) => ({ params: { path: { lab_id: id } } });

/** While something else of the same lab is asked for, what was there stays (and is to be greyed: `isPlaceholderData`). */
export const ofTheSame =
  (id: string) =>
  <T>(before: T | undefined, query?: { queryKey: readonly unknown[] }) =>
    query?.queryKey[1] === id ? before : undefined;

/** What tells one thing that is asked for from another; of a file, what tells it from others. */
const told = (input: unknown) =>
  JSON.stringify(input, (_, value: unknown) =>
    value instanceof File ? [value.name, value.size, value.lastModified] : value,
  );

/** A change, after which everything that is shown is fetched anew. */
export function useChange<In, Out>(change: (input: In) => Promise<Out>) {
  const client = useQueryClient();
  const underWay = useRef(new Set<string>());
  const numbers = useRef(new Map<string, string>());
  const mutation = useMutation<Out, Problem, In>({
    mutationFn: async (input) => {
      // The number stays until there is an answer: what was done though its answer was lost is not done again.
      const what = told(input);
      const number = numbers.current.get(what) ?? newId();
      numbers.current.set(what, number);
      try {
        const out = await underNumber(number, () => change(input));
        numbers.current.delete(what);
        return out;
      } catch (error) {
        if (!(error instanceof Problem && error.passing)) numbers.current.delete(what);
        throw error;
      }
    },
    onSuccess: () => fetchAnew(client),
  });
  // Pressing twice does it once; the button keeps its focus, which a disabled one would lose. Something else that is asked
  // for while the first is still shown anew is done too: it must not be lost without a word. What is to follow does so when
  // the change itself has taken the form off the page, too.
  const mutate = (input: In, then: { onSuccess?: (out: Out) => void; onError?: (problem: Problem) => void } = {}) => {
    const what = told(input);
    if (underWay.current.has(what)) return;
    underWay.current.add(what);
    void mutation
      .mutateAsync(input)
      .finally(() => underWay.current.delete(what))
      .then(then.onSuccess, then.onError ?? (() => undefined));
  };
  return { ...mutation, mutate };
}
