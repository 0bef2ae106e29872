import "./english";
import assert from "node:assert/strict";
import test from "node:test";
import { readRubric, rubricText } from "../src/stages/explain/rubric";

const ROWS = [
  {
    name: "Evidence",
    most: 3,
    levels: [
      { points: 0, text: "cites nothing", example: "" },
      { points: 2, text: "cites two readings", example: "0.94 and 0.95 V: both ours" },
    ],
  },
  { name: "Neat: or not", most: 2, levels: [] },
];

test("a rubric that is typed out is read back as it was", () => {
  assert.deepEqual(readRubric(rubricText(ROWS)), { rows: ROWS });
});

test("spaces and empty lines do not matter", () => {
  const read = readRubric("\n  Evidence :  3 \n 2 :cites two|  an example \n\n");
  const levels = [{ points: 2, text: "cites two", example: "an example" }];
  assert.deepEqual(read, { rows: [{ name: "Evidence", most: 3, levels }] });
});

test("the first line that is neither a row nor a level is told", () => {
  assert.deepEqual(readRubric("Evidence"), { odd: "Evidence" });
  assert.deepEqual(readRubric("Evidence: 3\nhalf: some"), { odd: "half: some" });
  assert.deepEqual(readRubric("2: a level before any row"), { odd: "2: a level before any row" });
  assert.deepEqual(readRubric(""), { rows: [] });
});
