import { useMemo } from "react";
import type { Schemas } from "../api/client";
import { useMaterials } from "../api/materials";
import { decimalSign } from "../language";

/** What stands for a material where the catalogue cannot be had: its key as words; an own material's key says nothing. */
const keyAsWords = (key: string) => (key.startsWith("own-") ? "…" : key.replaceAll("-", " "));

/** What a setting is set to, in the reader's language: “4 cm”. */
function settingOf(row: Schemas["SettingWords"], text: string): string {
  const value = text.slice(row.name.length + 1);
  const said = (part: string) => row.words[part] ?? part.replace(".", decimalSign);
  return row.words[value] ?? value.split(" ").map(said).join(" ");
}

/** Names and symbols of materials by key. */
export function useNames() {
  const { data, isError } = useMaterials();
  return useMemo(() => {
    const plates = new Map(data?.electrodes.map((electrode) => [electrode.key, electrode]));
    const liquids = new Map(data?.electrolytes.map((electrolyte) => [electrolyte.key, electrolyte]));
    const unnamed = (key: string) => (data ? key : isError ? keyAsWords(key) : "…"); // no key flashes before its name
    return {
      plate: (key: string) => plates.get(key)?.name ?? unnamed(key),
      symbol: (key: string) => plates.get(key)?.symbol ?? unnamed(key),
      /** A setting for reading: “spacing 4 cm” by its variable's name in the reader's language; other words as they are. */
      setting: (text: string) => {
        const row = data?.settings.find(({ name }) => text.startsWith(`${name} `));
        return row ? `${row.said} ${settingOf(row, text)}` : text;
      },
      /** The same without the variable's name, for where all are of one variable: “4 cm”. */
      level: (text: string) => {
        const row = data?.settings.find(({ name }) => text.startsWith(`${name} `));
        return row ? settingOf(row, text) : text;
      },
      liquid: (key: string) => liquids.get(key)?.name ?? unnamed(key),
      /** What is in the cups of two solutions and what joins them, the left one first; null for one liquid. */
      cups: (key: string, swapped = false) => {
        const sides = liquids.get(key)?.sides;
        if (!sides) return null;
        const [left = "", right = ""] = [sides.negative, sides.positive].map((side) => liquids.get(side)?.name ?? side);
        const [first, second] = swapped ? [right, left] : [left, right];
        return { left: first, right: second, joined: sides.bridge, by: sides.joined };
      },
    };
  }, [data, isError]);
}

export type Names = ReturnType<typeof useNames>;

/** A cell in full: “Zn | Cu, lemon juice, 4 cm”. */
export const cellName = (names: Names, { negative, electrolyte, positive, condition }: Schemas["CellIO"]) =>
  [
    `${names.symbol(negative)} | ${names.symbol(positive)}`,
    names.liquid(electrolyte),
    ...(condition ? [names.level(condition)] : []),
  ].join(", ");

/** What tells one liquid in one setting from any other, whether or not its name is there yet. */
export const bathKey = (bath: { electrolyte: string; condition: string }) => `${bath.electrolyte} ${bath.condition}`;

/** A liquid with what else is varied: “lemon juice, 4 cm apart”. */
export const bathName = (names: Names, bath: { electrolyte: string; condition: string }) =>
  bath.condition
    ? `${names.liquid(bath.electrolyte)}, ${names.setting(bath.condition)}`
    : names.liquid(bath.electrolyte);
