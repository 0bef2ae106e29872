import { useQuery } from "@tanstack/react-query";
import { GET, dataOf } from "./client";

/** All tables of the practice bench: made by the core, the same for everybody, kept for use without network. */
export const usePractise = () =>
  useQuery({ queryKey: ["practise"], queryFn: () => dataOf(GET("/api/practise")), staleTime: Infinity });
