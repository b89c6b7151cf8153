// Reads an exported USD text, or a USDZ with one, from outside, by three's reader: its parser for what is sampled, its composer for what becomes of it.
// Usage: node check-usd.mjs FILE FRAME... ; prints {file: metadata, meshes: by path: {frame: places of its points in the world}, visible: by path: {frame: boolean},
// sampled: by path: names of what changes over time, weights and colours: by path {frame: values}, materials, pictures, normals: of each mesh as composed, camera: {frame: place, fov}}
import { readFileSync } from 'node:fs';
import * as THREE from 'three';
import { USDAParser } from 'three/examples/jsm/loaders/usd/USDAParser.js';
import { USDLoader } from 'three/examples/jsm/loaders/USDLoader.js';
import { unzipSync } from 'three/examples/jsm/libs/fflate.module.js';

const [file, ...frames] = process.argv.slice(2);
const bytes = readFileSync(file);
const packed = bytes.toString('latin1', 0, 2) === 'PK';
const files = packed ? unzipSync(bytes) : {};
const text = new TextDecoder().decode(packed ? Object.values(files)[0] : bytes);
// Pictures are asked for as in a page; here none is drawn.
globalThis.document = { createElementNS: () => ({ addEventListener() {}, removeEventListener() {} }) };
const { specsByPath: specs } = new USDAParser().parseData(text);
const fields = (path) => specs[path]?.fields ?? {};
// Between two samples what counts goes evenly (OpenUSD, linear interpolation), turns by slerp, words stay.
const value = (path, frame, mix) => {
  const { default: fixed, timeSamples } = fields(path);
  if (!timeSamples) return fixed;
  const { times, values } = timeSamples;
  const after = times.findIndex((t) => t >= frame);
  if (after < 0) return values.at(-1);
  if (times[after] === frame || after === 0) return values[after];
  const share = (frame - times[after - 1]) / (times[after] - times[after - 1]);
  return mix(values[after - 1], values[after], share);
};
const evenly = (a, b, share) => a.map((of, k) => of + share * (b[k] - of));
const slerp = (a, b, share) => {
  const { x, y, z, w } = new THREE.Quaternion(...a).slerp(new THREE.Quaternion(...b), share);
  return [x, y, z, w];
};
const local = (path, frame) => {
  // The text has w first; three's parser has it last.
  const turn = value(`${path}.xformOp:orient`, frame, slerp) ?? [0, 0, 0, 1];
  return new THREE.Matrix4().compose(
    new THREE.Vector3(...(value(`${path}.xformOp:translate`, frame, evenly) ?? [0, 0, 0])),
    new THREE.Quaternion(...turn),
    new THREE.Vector3(...(value(`${path}.xformOp:scale`, frame, evenly) ?? [1, 1, 1])),
  );
};
const world = (path, frame) => {
  const matrix = new THREE.Matrix4();
  for (let at = path; at !== ''; at = at.slice(0, at.lastIndexOf('/'))) matrix.premultiply(local(at, frame));
  return matrix;
};
const flat = (values) => (Array.isArray(values?.[0]) ? values.flat() : Array.from(values ?? []));
const report = {
  file: fields('/'),
  meshes: {},
  visible: {},
  sampled: {},
  weights: {},
  colours: {},
  looks: {},
};
for (const path of Object.keys(specs)) {
  if (fields(path).typeName !== 'Mesh') continue;
  report.meshes[path] = {};
  report.visible[path] = {};
  report.weights[path] = {};
  report.colours[path] = {};
  report.sampled[path] = Object.keys(specs)
    .filter((of) => of.startsWith(`${path}.`) && fields(of).timeSamples)
    .map((of) => of.slice(path.length + 1));
  for (const frame of frames) {
    const points = flat(value(`${path}.points`, Number(frame), evenly));
    const matrix = world(path, Number(frame));
    report.meshes[path][frame] = Array.from({ length: points.length / 3 }, (_, v) =>
      new THREE.Vector3(...points.slice(3 * v, 3 * v + 3)).applyMatrix4(matrix).toArray(),
    );
    report.visible[path][frame] = !String(value(`${path}.visibility`, Number(frame), (a) => a)).includes(
      'invisible',
    );
    report.weights[path][frame] = flat(value(`${path}.primvars:weight`, Number(frame), evenly));
    report.colours[path][frame] = flat(value(`${path}.primvars:displayColor`, Number(frame), evenly));
  }
}
report.files = Object.fromEntries(Object.entries(files).map(([name, { length }]) => [name, length]));
const scene = new USDLoader().parse(
  packed ? bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length) : text,
);
scene.updateMatrixWorld(true);
report.composed = [];
scene.traverse((node) => {
  if (!node.isMesh) return;
  const normals = node.geometry.getAttribute('normal');
  const places = node.geometry.getAttribute('position');
  report.composed.push({
    name: node.name,
    materials: [node.material].flat().map((material) => material.name),
    colours: [node.material].flat().map((material) => material.color.toArray()),
    pictures: [node.material].flat().map((material) => material.map?.colorSpace ?? null),
    groups: node.geometry.groups.map((group) => group.count / 3),
    normals: Array.from(normals.array.slice(0, 9)),
    corners: Array.from({ length: 3 }, (_, k) =>
      new THREE.Vector3().fromBufferAttribute(places, k).toArray(),
    ),
  });
});
report.tracks = scene.animations.flatMap((clip) => clip.tracks.map((track) => track.name)).length;
const eye = scene.getObjectByProperty('isCamera', true);
report.camera = eye && {
  position: eye.getWorldPosition(new THREE.Vector3()).toArray(),
  fov: eye.fov,
  aspect: eye.aspect,
};
console.log(JSON.stringify(report));
