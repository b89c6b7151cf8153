// Reads pictures of single floats from outside, by three's reader. Usage: node read-exr.mjs FILE.exr...; beside each is written FILE.exr.floats: width and height
// (two 32-bit whole numbers), then four floats a pixel, from the top row to the bottom one.
import { readFileSync, writeFileSync } from 'node:fs';
import { FloatType } from 'three';
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js';

for (const file of process.argv.slice(2)) {
  const bytes = readFileSync(file);
  const { width, height, data } = new EXRLoader()
    .setDataType(FloatType)
    .parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
  const rows = new Float32Array(data.length);
  // The reader has the bottom row first.
  for (let y = 0; y < height; y++)
    rows.set(data.subarray(4 * width * y, 4 * width * (y + 1)), 4 * width * (height - 1 - y));
  writeFileSync(
    `${file}.floats`,
    Buffer.concat([Buffer.from(new Uint32Array([width, height]).buffer), Buffer.from(rows.buffer)]),
  );
}
