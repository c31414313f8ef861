/// <reference types="node" />
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { expect, it } from "vitest";
import { aliases, glyphs } from "./glyphs";

const file = join(process.cwd(), "../internal/core/silhouette/glyphs.json");

// What is printed has the outlines that are on screen: the file of the core is written from here
// (npm run glyphs), and this fails when it is not what it would be.
it("the core has the same silhouettes", () => {
  const all = { glyphs, aliases };
  const text = `${JSON.stringify(all, null, 1)}\n`;
  if (process.env.WRITE_GLYPHS) writeFileSync(file, text);
  expect(JSON.parse(readFileSync(file, "utf8"))).toEqual(JSON.parse(text));
});
