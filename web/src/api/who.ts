import { useQuery } from "@tanstack/react-query";
import { GET, POST, type Schemas, dataOf } from "./client";
import { useChange } from "./queries";
import { signedOut } from "./signingOut";

export const useWho = () => useQuery({ queryKey: ["who"], queryFn: () => dataOf(GET("/api/who")) });

export const useSignIn = () => useChange((body: Schemas["SignIn"]) => dataOf(POST("/api/sign-in", { body })));

/** Sign the teacher out, in every tab; the pages begin anew, so that nothing they have fetched is left in memory. */
export const useSignOut = () =>
  useChange(async () => {
    const done = await dataOf(POST("/api/sign-out"));
    signedOut();
    return done;
  });

export const useJoin = () => useChange((body: Schemas["Join"]) => dataOf(POST("/api/join", { body })));

export const useDeeds = () => useQuery({ queryKey: ["deeds"], queryFn: () => dataOf(GET("/api/deeds")) });

export const useDeleteAccount = () =>
  useChange((password: string) => dataOf(POST("/api/account/delete", { body: { password } })));

export const useChangePassword = () =>
  useChange((body: Schemas["NewPasswordIn"]) => dataOf(POST("/api/account/password", { body })));

export const useSignIns = () =>
  useQuery({ queryKey: ["sign-ins"], queryFn: () => dataOf(GET("/api/account/sign-ins")) });

export const useEndSignIn = () =>
  useChange((id: string) =>
    dataOf(POST("/api/account/sign-ins/{sign_in_id}/end", { params: { path: { sign_in_id: id } } })),
  );

export const useNewPin = () =>
  useChange((group: string) =>
    dataOf(POST("/api/groups/{group_id}/new-pin", { params: { path: { group_id: group } } })),
  );

export const useAccount = () => useQuery({ queryKey: ["account"], queryFn: () => dataOf(GET("/api/account")) });

export const useSetEmail = () => useChange((body: Schemas["EmailIn"]) => dataOf(POST("/api/account/email", { body })));

export const useBeginSecond = () =>
  useChange((password: string) => dataOf(POST("/api/account/second", { body: { password } })));

export const useConfirmSecond = () =>
  useChange((code: string) => dataOf(POST("/api/account/second/confirm", { body: { code } })));

export const useEndSecond = () =>
  useChange((password: string) => dataOf(POST("/api/account/second/end", { body: { password } })));
