// Packs what the browser loads once more, tighter than a server would while somebody waits.
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

for (const name of readdirSync("dist/assets")) {
  if (!/\.(js|css)$/.test(name)) continue;
  const file = `dist/assets/${name}`;
  const data = readFileSync(file);
  writeFileSync(`${file}.gz`, gzipSync(data, { level: 9 }));
  writeFileSync(`${file}.br`, brotliCompressSync(data, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }));
}
