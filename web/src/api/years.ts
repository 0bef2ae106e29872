import { useQuery } from "@tanstack/react-query";
import { GET, PUT, dataOf } from "./client";
import { ofLab, useChange } from "./queries";

/** Labs laid over each other. */
export const useYears = (labs: string[]) =>
  useQuery({
    queryKey: ["years", labs],
    enabled: labs.length > 1,
    queryFn: () => dataOf(GET("/api/years", { params: { query: { lab: labs } } })),
    placeholderData: (previous) => previous,
  });

/** What a lab found, to be drawn small; asked for once, since it is of what is closed. */
export const useGlance = (id: string, wanted: boolean) =>
  useQuery({
    queryKey: ["glance", id],
    enabled: wanted,
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/glance", ofLab(id))),
    staleTime: 60_000,
  });

export const useTagLab = () =>
  useChange(({ id, tags }: { id: string; tags: string[] }) =>
    dataOf(PUT("/api/labs/{lab_id}/tags", { ...ofLab(id), body: { tags } })),
  );

export const useArchiveLab = () =>
  useChange(({ id, away }: { id: string; away: boolean }) =>
    dataOf(PUT("/api/labs/{lab_id}/archive", { ...ofLab(id), body: { away } })),
  );
