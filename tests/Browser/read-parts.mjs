// Reads an EXR of several parts from outside. Usage: node read-parts.mjs FILE.exr; prints as JSON its size, the channels of each part, by how much all layers together differ
// from the picture at most, how far normals are from a length of 1 at most, and what of the things that are seen (depth above 0) has no colour of a prop.
import { readFileSync } from 'node:fs';
import { decodeExr, init } from 'exrs';

await init();
const { width, height, layers } = decodeExr(new Uint8Array(readFileSync(process.argv[2])));
const parts = Object.fromEntries(layers.map((layer) => [layer.name, layer]));
const all = (name, channels) => parts[name].getInterleavedPixels(channels);
const colour = ['R', 'G', 'B', 'A'];
const sum = all('picture', colour).map((value) => -value);
for (const name of Object.keys(parts).filter((one) => one.startsWith('layer.')))
  all(name, colour).forEach((value, k) => (sum[k] += value));
const largest = (numbers) => numbers.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
const depth = all('depth', ['Z']);
const normals = all('normals', ['X', 'Y', 'Z']);
const props = all('props', ['A']);
let [unit, lost, seen] = [0, 0, 0];
depth.forEach((far, k) => {
  if (far <= 0) return;
  seen++;
  unit = Math.max(unit, Math.abs(1 - Math.hypot(normals[3 * k], normals[3 * k + 1], normals[3 * k + 2])));
  if (props[k] !== 1) lost++;
});
console.log(
  JSON.stringify({
    width,
    height,
    parts: Object.fromEntries(layers.map((layer) => [layer.name, layer.channelNamesAlphabetical.join('')])),
    apart: largest(sum),
    unit,
    seen,
    lost,
    motion: largest(all('motion', ['X', 'Y'])),
  }),
);
