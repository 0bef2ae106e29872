import { useQuery } from "@tanstack/react-query";
import { GET, POST, dataOf } from "./client";
import { ofLab, useChange } from "./queries";

export const useKit = (id: string) =>
  useQuery({ queryKey: ["kit", id], queryFn: () => dataOf(GET("/api/labs/{lab_id}/kit", ofLab(id))) });

export const useSafety = (id: string) =>
  useQuery({ queryKey: ["safety", id], queryFn: () => dataOf(GET("/api/labs/{lab_id}/safety", ofLab(id))) });

export const useCards = (id: string) =>
  useQuery({ queryKey: ["cards", id], queryFn: () => dataOf(GET("/api/labs/{lab_id}/cards", ofLab(id))) });

/** What groups' devices open; it does not change while the server runs. */
export const useJoinLink = (id: string) =>
  useQuery({
    queryKey: ["join-link", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/join-link", ofLab(id))),
    staleTime: Infinity,
  });

export const useSignOff = () =>
  useChange(({ id, fingerprint }: { id: string; fingerprint: string }) =>
    dataOf(POST("/api/labs/{lab_id}/safety", { params: { path: { lab_id: id } }, body: { fingerprint } })),
  );
