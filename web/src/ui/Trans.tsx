import { Trans as Said, type TransProps } from "@lingui/react";

/** A translated sentence whose values stand as they were typed: “<b>” in a group's words is no part of the sentence. */
export function Trans({ values, ...rest }: TransProps) {
  return <Said {...rest} values={values && Object.fromEntries(Object.entries(values).map(asTyped))} />;
}

const asTyped = ([name, value]: [string, unknown]): [string, unknown] =>
  // What is no text is put in after the sentence has been taken apart.
  typeof value === "string" && value.includes("<") ? [name, <>{value}</>] : [name, value];
