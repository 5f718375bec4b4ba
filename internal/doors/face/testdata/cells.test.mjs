import { test } from "node:test";
import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { name, parse, put, raised, wish } from "../static/cells.mjs";

const table = JSON.parse(
  readFileSync(
    new URL("../../../../core/tray/testdata/lists.json", import.meta.url),
  ),
);

test("lists are read as the server reads them", () => {
  for (const { typed, cells } of table)
    assert.deepEqual(parse(typed), cells, typed);
  for (const wrong of [
    "7",
    "A",
    "A0",
    "A-1",
    "A1-",
    "A1-B",
    "ABC1",
    "A1.5",
    "A1-ZZ99999",
  ])
    assert.deepEqual(parse(wrong), [], wrong);
});

test("every cell is called by one name", () => {
  const seen = new Set();
  for (let row = 0; row < 60; row++)
    for (let col = 0; col < 60; col++) {
      const n = name(row, col);
      assert.deepEqual(parse(n), [n]);
      seen.add(n);
    }
  assert.equal(seen.size, 3600);
});

test("a cell goes in and out of a list", () => {
  assert.equal(put("A1-A3", "B1", true), "A1, A2, A3, B1");
  assert.equal(put("A1-A3", "A2", false), "A1, A3");
  assert.equal(put("A1, A2", "A1", true), "A2, A1");
  assert.equal(put("", "A1", false), "");
});

test("a touch asks for a mark, or takes it away", () => {
  assert.equal(wish("sprouted", "sown", "sown"), "sprouted");
  assert.equal(wish("sprouted", "sprouted", "sown"), "");
  assert.equal(wish("sprouted", "lost", "sprouted"), "", "back to what it was");
  assert.equal(wish("lost", "sprouted", "sown"), "lost");
});

test("what came up since the page was shown", () => {
  const cells = (...pairs) => pairs.map(([was, is]) => ({ was, is }));
  assert.equal(
    raised(
      cells(
        ["sown", "sprouted"],
        ["sown", "sown"],
        ["sprouted", "thinned"],
        ["empty", "thinned"],
        ["sprouted", "sown"],
        ["sprouted", "lost"],
      ),
    ),
    1,
  );
});
