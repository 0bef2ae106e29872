const page = globalThis.document as Document | undefined; // none in tests

/** The version of Pipette that serves this page. */
export const version = page?.querySelector<HTMLMetaElement>("meta[name=version]")?.content ?? "";
