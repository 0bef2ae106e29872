import { useQuery } from "@tanstack/react-query";
import { GET, POST, PUT, type Schemas, dataOf } from "./client";
import { ofLab, useChange } from "./queries";

export const useBeginSchool = () => useChange((body: Schemas["FirstIn"]) => dataOf(POST("/api/first", { body })));

/** What a link is for; asked again only when the page is opened again. */
export const useLookAtLink = (secret: string) =>
  useQuery({
    queryKey: ["link", secret],
    enabled: secret !== "",
    queryFn: () => dataOf(POST("/api/link/look", { body: { secret } })),
    staleTime: Infinity,
    retry: false,
  });

export const useUseLink = () => useChange((body: Schemas["UseIn"]) => dataOf(POST("/api/link/use", { body })));

export const useForgotten = () =>
  useChange((username: string) => dataOf(POST("/api/forgotten", { body: { username } })));

export const useSchool = () => useQuery({ queryKey: ["school"], queryFn: () => dataOf(GET("/api/school")) });

export const useSchoolDeeds = (enabled: boolean) =>
  useQuery({ queryKey: ["school-deeds"], enabled, queryFn: () => dataOf(GET("/api/school/deeds")) });

export const useInvite = () => useChange((name: string) => dataOf(POST("/api/school/invitations", { body: { name } })));

export const useEndLink = () =>
  useChange((id: string) => dataOf(POST("/api/school/links/{link_id}/end", { params: { path: { link_id: id } } })));

const ofTeacher = (id: number) => ({ params: { path: { teacher_id: id } } });

export const useResetColleague = () =>
  useChange((id: number) => dataOf(POST("/api/school/teachers/{teacher_id}/reset", ofTeacher(id))));

export const useSetHead = () =>
  useChange(({ id, head }: { id: number; head: boolean }) =>
    dataOf(PUT("/api/school/teachers/{teacher_id}/head", { ...ofTeacher(id), body: { head } })),
  );

export const useSetActive = () =>
  useChange(({ id, active }: { id: number; active: boolean }) =>
    dataOf(PUT("/api/school/teachers/{teacher_id}/active", { ...ofTeacher(id), body: { active } })),
  );

export const useSetCupboard = () =>
  useChange((teacher: number | null) => dataOf(PUT("/api/school/cupboard", { body: { teacher } })));

/** Whose a lab is, and for its owner with whom it is shared. */
export const useShares = (lab: string | undefined) =>
  useQuery({
    queryKey: ["shares", lab],
    enabled: lab !== undefined,
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/shares", ofLab(lab ?? ""))),
    staleTime: 30_000,
  });

export const useShareLab = (lab: string) =>
  useChange((body: Schemas["LabShareIn"]) => dataOf(PUT("/api/labs/{lab_id}/shares", { ...ofLab(lab), body })));
