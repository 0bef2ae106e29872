import { useQuery } from "@tanstack/react-query";
import { GET, dataOf } from "./client";

/** All tables of the practice bench: made by the core, the same for everybody, kept for use without network. */
export const usePractise = () =>
  useQuery({ queryKey: ["practise"], queryFn: () => dataOf(GET("/api/practise")), staleTime: Infinity });

/** What a pair gives in a liquid; asked for in one order, whichever way round it stands. */
export const usePair = (electrolyte: string, black: string, red: string) => {
  const [one = "", other = ""] = [black, red].sort();
  return useQuery({
    queryKey: ["practise", electrolyte, one, other],
    queryFn: () =>
      dataOf(GET("/api/practise/{electrolyte}/{one}/{other}", { params: { path: { electrolyte, one, other } } })),
    staleTime: Infinity,
    retry: false,
  });
};
