// Makes the typeface of the interface out of the one that is installed: the letters of Western
// Europe and the signs we set, in the weights and widths that are used. It is half as large so.
import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import subsetFont from "subset-font";

const from = "node_modules/@fontsource-variable/archivo/files/archivo-latin-wdth-normal.woff2";
let letters = "–—‘’“”„…•⁄×÷−€²³½¼¾↑↓\u2009\u00a0";
for (let c = 0x20; c < 0x100; c++) letters += String.fromCodePoint(c);
const font = await subsetFont(readFileSync(from), letters, {
  targetFormat: "woff2",
  variationAxes: { wdth: { min: 82, max: 100 }, wght: { min: 400, max: 800 } },
});
mkdirSync("src/fonts", { recursive: true });
writeFileSync("src/fonts/archivo.woff2", font);
