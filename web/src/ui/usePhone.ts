import { useSyncExternalStore } from "react";
import { phone } from "./theme";

const query = window.matchMedia(phone.replace("@media ", ""));

const subscribe = (changed: () => void) => {
  query.addEventListener("change", changed);
  return () => query.removeEventListener("change", changed);
};

/** Whether the page is as narrow as a phone, for what comes in another order there. */
export const usePhone = (): boolean => useSyncExternalStore(subscribe, () => query.matches);
