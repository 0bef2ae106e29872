import { QueryClient, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useLive } from "./live";
import { DELETE, GET, POST, PUT, Problem, type Schemas, dataOf } from "./client";

/** How often the board and the bench look for news by themselves, while the server cannot tell them, and while it can. */
const LOOK_AGAIN_MS = 2000;
const LIVE_MS = 20_000;

export const queries = new QueryClient({
  defaultOptions: {
    // A service worker may answer while the network is away, and a refusal is better than waiting in silence.
    mutations: { networkMode: "always" },
    queries: {
      networkMode: "always",
      staleTime: 1000,
      retry: (failures, error) => error instanceof Problem && error.passing && failures < 3,
      refetchOnWindowFocus: true,
    },
  },
});

export const useWho = () => useQuery({ queryKey: ["who"], queryFn: () => dataOf(GET("/api/who")) });

export const useMaterials = () =>
  useQuery({ queryKey: ["materials"], queryFn: () => dataOf(GET("/api/materials")), staleTime: Infinity });

export const useLabs = () => useQuery({ queryKey: ["labs"], queryFn: () => dataOf(GET("/api/labs")) });

export const useLab = (id: string) =>
  useQuery({
    queryKey: ["lab", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}", { params: { path: { lab_id: id } } })),
  });

export const useBoard = (id: string) => {
  const live = useLive(`/api/labs/${id}/events`, ["board", id]);
  return useQuery({
    queryKey: ["board", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/board", { params: { path: { lab_id: id } } })),
    refetchInterval: live ? LIVE_MS : LOOK_AGAIN_MS,
  });
};

export const useCompare = (id: string, anchors: string[]) =>
  useQuery({
    queryKey: ["compare", id, anchors],
    queryFn: () =>
      dataOf(GET("/api/labs/{lab_id}/compare", { params: { path: { lab_id: id }, query: { anchor: anchors } } })),
    placeholderData: (previous) => previous,
  });

export const useBenchCompare = () =>
  useQuery({ queryKey: ["bench-compare"], queryFn: () => dataOf(GET("/api/bench/compare")) });
export const useExplain = (id: string, cell: Schemas["CellIO"] | null) =>
  useQuery({
    queryKey: ["explain", id, cell],
    enabled: cell !== null,
    queryFn: () =>
      dataOf(
        GET("/api/labs/{lab_id}/explain", {
          params: { path: { lab_id: id }, query: cell ?? { negative: "", electrolyte: "", positive: "" } },
        }),
      ),
    placeholderData: (previous) => previous,
  });
export const useWhatIf = (body: Schemas["WhatIfIn"]) =>
  useQuery({
    queryKey: ["what-if", body],
    queryFn: () => dataOf(POST("/api/what-if", { body })),
    placeholderData: (previous) => previous,
    staleTime: Infinity,
    retry: false,
  });
export const useAccounts = (id: string | undefined) =>
  useQuery({
    queryKey: ["accounts", id],
    enabled: id !== undefined,
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/accounts", { params: { path: { lab_id: id ?? "" } } })),
  });
export const useClaims = (id: string) =>
  useQuery({
    queryKey: ["claims", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/claims", { params: { path: { lab_id: id } } })),
    refetchInterval: LIVE_MS,
  });
export const useBenchClaims = () =>
  useQuery({
    queryKey: ["bench-claims"],
    queryFn: () => dataOf(GET("/api/bench/claims")),
    refetchInterval: LIVE_MS,
  });

const ofLab = (id: string) => ({ params: { path: { lab_id: id } } });

export const useKit = (id: string) =>
  useQuery({ queryKey: ["kit", id], queryFn: () => dataOf(GET("/api/labs/{lab_id}/kit", ofLab(id))) });
export const useSafety = (id: string) =>
  useQuery({ queryKey: ["safety", id], queryFn: () => dataOf(GET("/api/labs/{lab_id}/safety", ofLab(id))) });
export const usePredictions = (id: string) =>
  useQuery({
    queryKey: ["predictions", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/predictions", ofLab(id))),
    refetchInterval: 5 * LOOK_AGAIN_MS,
  });
export const useCards = (id: string) =>
  useQuery({ queryKey: ["cards", id], queryFn: () => dataOf(GET("/api/labs/{lab_id}/cards", ofLab(id))) });

/** What groups' devices open; it does not change while the server runs. */
export const useJoinLink = (id: string) =>
  useQuery({
    queryKey: ["join-link", id],
    queryFn: () => dataOf(GET("/api/labs/{lab_id}/join-link", ofLab(id))),
    staleTime: Infinity,
  });

export const useBench = () => {
  const live = useLive("/api/bench/events", ["bench"]);
  return useQuery({
    queryKey: ["bench"],
    queryFn: () => dataOf(GET("/api/bench")),
    refetchInterval: live ? LIVE_MS : 3 * LOOK_AGAIN_MS,
  });
};

/** How a plan would be shared out: of a new lab, or in place of a draft's. */
export const usePreview = (plan: Schemas["LabIn"] | null, lab: string | undefined) =>
  useQuery({
    queryKey: ["preview", lab, plan],
    enabled: plan !== null,
    queryFn: () => dataOf(POST("/api/labs/preview", { params: { query: { lab } }, body: plan as Schemas["LabIn"] })),
    placeholderData: (previous) => previous,
    retry: false,
  });

function useChange<In, Out>(change: (input: In) => Promise<Out>) {
  const client = useQueryClient();
  const mutation = useMutation<Out, Problem, In>({ mutationFn: change, onSuccess: () => client.invalidateQueries() });
  // Pressing twice does it once; the button keeps its focus, which a disabled one would lose.
  const mutate: typeof mutation.mutate = (...input) => {
    if (!mutation.isPending) mutation.mutate(...input);
  };
  return { ...mutation, mutate };
}

export const useSignIn = () => useChange((body: Schemas["SignIn"]) => dataOf(POST("/api/sign-in", { body })));
/** Sign the teacher out; the page begins anew, so that nothing it has fetched is left in memory. */
export const useSignOut = () =>
  useChange(async () => {
    const done = await dataOf(POST("/api/sign-out"));
    location.reload();
    return done;
  });
export const useJoin = () => useChange((body: Schemas["Join"]) => dataOf(POST("/api/join", { body })));
export const useCreateLab = () => useChange((body: Schemas["LabIn"]) => dataOf(POST("/api/labs", { body })));
export const useReviseLab = () =>
  useChange(({ id, body }: { id: string; body: Schemas["LabIn"] }) =>
    dataOf(PUT("/api/labs/{lab_id}", { params: { path: { lab_id: id } }, body })),
  );
export const useEditPlan = () =>
  useChange(({ id, body }: { id: string; body: Schemas["EditIn"] }) =>
    dataOf(POST("/api/labs/{lab_id}/plan", { params: { path: { lab_id: id } }, body })),
  );
export const useSetTimes = () =>
  useChange(({ id, body }: { id: string; body: Schemas["TimesIn"] }) =>
    dataOf(PUT("/api/labs/{lab_id}/times", { params: { path: { lab_id: id } }, body })),
  );
export const useCopyLab = () =>
  useChange(({ id, body }: { id: string; body: Schemas["CopyIn"] }) =>
    dataOf(POST("/api/labs/{lab_id}/copy", { params: { path: { lab_id: id } }, body })),
  );
export const useSignOff = () =>
  useChange(({ id, fingerprint }: { id: string; fingerprint: string }) =>
    dataOf(POST("/api/labs/{lab_id}/safety", { params: { path: { lab_id: id } }, body: { fingerprint } })),
  );
export const useAddElectrode = () =>
  useChange((body: Schemas["OwnElectrodeIn"]) => dataOf(POST("/api/materials/electrodes", { body })));
export const useAddElectrolyte = () =>
  useChange((body: Schemas["OwnElectrolyteIn"]) => dataOf(POST("/api/materials/electrolytes", { body })));
export const useOwnMaterials = () =>
  useQuery({ queryKey: ["own-materials"], queryFn: () => dataOf(GET("/api/materials/own")) });
export const useRenameLab = () =>
  useChange(({ id, title }: { id: string; title: string }) =>
    dataOf(PUT("/api/labs/{lab_id}/title", { ...ofLab(id), body: { title } })),
  );
export const useRetire = () =>
  useChange((key: string) => dataOf(POST("/api/materials/{key}/retire", { params: { path: { key } } })));
/** Keep what is on the shelf; several changes of one material go one after the other, none is skipped. */
export function useSetShelf(key: string) {
  const client = useQueryClient();
  return useMutation<Schemas["Done"], Problem, Schemas["ShelfIn"]>({
    scope: { id: `shelf-${key}` },
    mutationFn: (body) => dataOf(PUT("/api/shelf/{key}", { params: { path: { key } }, body })),
    onSuccess: () => client.invalidateQueries({ queryKey: ["materials"] }),
  });
}
export const useOpenLab = () =>
  useChange((id: string) => dataOf(POST("/api/labs/{lab_id}/open", { params: { path: { lab_id: id } } })));
export const useCloseLab = () =>
  useChange((id: string) => dataOf(POST("/api/labs/{lab_id}/close", { params: { path: { lab_id: id } } })));

export const useAskAgain = () =>
  useChange((cell: string) => dataOf(POST("/api/cells/{cell_id}/ask-again", { params: { path: { cell_id: cell } } })));

export const useRecordClaim = () =>
  useChange((body: Schemas["ClaimIn"]) => dataOf(POST("/api/bench/claims", { body })));
export const useAnswerClaim = () =>
  useChange(({ id, body }: { id: string; body: Schemas["AnswerIn"] }) =>
    dataOf(POST("/api/claims/{claim_id}/answer", { params: { path: { claim_id: id } }, body })),
  );
export const useSetRubric = () =>
  useChange(({ id, rows }: { id: string; rows: Schemas["RubricRow"][] }) =>
    dataOf(PUT("/api/labs/{lab_id}/rubric", { ...ofLab(id), body: { rows } })),
  );
/** Decide what groups see; several ticks go one after the other, none is skipped. */
export function useRelease(id: string) {
  const client = useQueryClient();
  return useMutation<Schemas["Done"], Problem, Schemas["ReleaseIn"]["parts"]>({
    scope: { id: `release-${id}` },
    mutationFn: (parts) => dataOf(POST("/api/labs/{lab_id}/release", { ...ofLab(id), body: { parts } })),
    onSuccess: () => client.invalidateQueries(),
  });
}
export const useGiveCell = () =>
  useChange(({ cell, group }: { cell: string; group: string }) =>
    dataOf(POST("/api/cells/{cell_id}/give", { params: { path: { cell_id: cell } }, body: { group } })),
  );
export const useSetAside = () =>
  useChange(({ kind, id, reason }: { kind: "readings" | "groups"; id: string; reason: string }) =>
    kind === "readings"
      ? dataOf(POST("/api/readings/{reading_id}/aside", { params: { path: { reading_id: id } }, body: { reason } }))
      : dataOf(POST("/api/groups/{group_id}/aside", { params: { path: { group_id: id } }, body: { reason } })),
  );
export const useSetMeter = () =>
  useChange(({ group, address }: { group: string; address: string }) =>
    dataOf(POST("/api/groups/{group_id}/meter", { params: { path: { group_id: group } }, body: { address } })),
  );
export const usePause = () =>
  useChange(({ id, on }: { id: string; on: boolean }) =>
    dataOf(POST("/api/labs/{lab_id}/pause", { ...ofLab(id), body: { on } })),
  );
export const useShowValues = () =>
  useChange(({ id, on }: { id: string; on: boolean }) =>
    dataOf(POST("/api/labs/{lab_id}/show-values", { ...ofLab(id), body: { on } })),
  );
export const useAddMinutes = () =>
  useChange(({ id, minutes }: { id: string; minutes: number }) =>
    dataOf(POST("/api/labs/{lab_id}/minutes", { ...ofLab(id), body: { minutes } })),
  );
export const useBeside = (cell: string) =>
  useQuery({
    queryKey: ["beside", cell],
    queryFn: () => dataOf(GET("/api/cells/{cell_id}/beside", { params: { path: { cell_id: cell } } })),
    refetchInterval: LIVE_MS,
  });

export const useRemovePhoto = () =>
  useChange((id: string) => dataOf(DELETE("/api/photos/{photo_id}", { params: { path: { photo_id: id } } })));
export const useDeletedLabs = () =>
  useQuery({ queryKey: ["deleted-labs"], queryFn: () => dataOf(GET("/api/labs/deleted")) });
export const useDeleteLab = () =>
  useChange(({ id, title }: { id: string; title: string }) =>
    dataOf(POST("/api/labs/{lab_id}/delete", { ...ofLab(id), body: { title } })),
  );
export const useUndeleteLab = () => useChange((id: string) => dataOf(POST("/api/labs/{lab_id}/undelete", ofLab(id))));
export const useDeeds = () => useQuery({ queryKey: ["deeds"], queryFn: () => dataOf(GET("/api/deeds")) });
export const useDeleteAccount = () =>
  useChange((password: string) => dataOf(POST("/api/account/delete", { body: { password } })));

export const useNewPin = () =>
  useChange((group: string) =>
    dataOf(POST("/api/groups/{group_id}/new-pin", { params: { path: { group_id: group } } })),
  );

export const useImport = () =>
  useChange(({ file, title, on }: { file: File; title: string; on: string }) => {
    const form = new FormData();
    form.append("file", file);
    form.append("title", title);
    form.append("on", on);
    return dataOf(
      POST("/api/labs/import", { body: form as never, bodySerializer: (body: unknown) => body as FormData }),
    );
  });
