// Checks an exported GLB from outside: the Khronos validator finds no error, and three's loader reads it back.
// Usage: node check-glb.mjs FILE.glb FPS FRAME... ; prints {errors, nodes, positions: {frame: [[x, y, z] by node]}, scales: the same,
// bent: {frame: places of the vertices of each node with morph targets}, colours: {frame: those of the vertices of each mesh that has any}, cameras: {frame: place, turn, fov and aspect of the first camera},
// lights: {frame: way, intensity and linear colour of each by its name}}; lights and cameras are not among the nodes
import { readFileSync } from 'node:fs';
import validator from 'gltf-validator';
import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

globalThis.self = globalThis;
const [file, fps, ...frames] = process.argv.slice(2);
const bytes = readFileSync(file);
const report = await validator.validateBytes(new Uint8Array(bytes), {
  maxIssues: 20,
  ignoredIssues: ['UNUSED_OBJECT'],
});
const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
const gltf = await new Promise((resolve, reject) => new GLTFLoader().parse(buffer, '', resolve, reject));
const mixer = new THREE.AnimationMixer(gltf.scene);
gltf.animations.forEach((clip) => {
  const action = mixer.clipAction(clip);
  action.setLoop(THREE.LoopOnce, 1);
  action.clampWhenFinished = true;
  action.play();
});
const positions = {};
const scales = {};
const bent = {};
const colours = {};
const cameras = {};
const lights = {};
const shown = gltf.scene.children.filter(
  (node) => !node.isLight && !node.children.some((child) => child.isLight),
);
for (const frame of frames) {
  mixer.setTime((frame - 1) / Number(fps));
  positions[frame] = shown.map((node) => node.position.toArray());
  const [eye] = gltf.cameras;
  if (eye) {
    gltf.scene.updateMatrixWorld(true);
    cameras[frame] = {
      position: eye.getWorldPosition(new THREE.Vector3()).toArray(),
      turn: eye.getWorldQuaternion(new THREE.Quaternion()).toArray(),
      fov: eye.fov,
      aspect: eye.aspect,
    };
  }
  gltf.scene.updateMatrixWorld(true);
  lights[frame] = {};
  gltf.scene.traverse((light) => {
    if (!light.isDirectionalLight) return;
    const from = light.getWorldPosition(new THREE.Vector3());
    const way = light.target.getWorldPosition(new THREE.Vector3()).sub(from).normalize();
    lights[frame][light.name] = {
      way: way.toArray(),
      intensity: light.intensity,
      colour: light.color.toArray(),
    };
  });
  // What is bent: all vertices as three draws them.
  bent[frame] = gltf.scene.children
    .filter((node) => node.morphTargetInfluences)
    .map((node) =>
      Array.from({ length: node.geometry.getAttribute('position').count }, (_, v) =>
        node.getVertexPosition(v, new THREE.Vector3()).toArray(),
      ),
    );
  // Colours as three's shader has them: those of the mesh, and of each target as much as its weight.
  const coloured = [];
  gltf.scene.traverse((mesh) => {
    const base = mesh.geometry?.getAttribute('color');
    if (!base) return;
    const targets = mesh.geometry.morphAttributes.color ?? [];
    coloured.push(
      Array.from({ length: base.count }, (_, v) =>
        [0, 1, 2].map((c) =>
          targets.reduce(
            (sum, target, t) => sum + mesh.morphTargetInfluences[t] * target.getComponent(v, c),
            base.getComponent(v, c),
          ),
        ),
      ),
    );
  });
  colours[frame] = coloured;
  scales[frame] = shown.map((node) => node.scale.toArray());
}
console.log(
  JSON.stringify({
    errors: report.issues.numErrors,
    messages: report.issues.messages,
    nodes: shown.length,
    materials: [...new Set(gltf.parser.json.materials.map((m) => m.name))],
    positions,
    scales,
    bent,
    colours,
    cameras,
    lights,
  }),
);
