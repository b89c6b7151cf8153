// The pile scene in the physics engine rapier (npm @dimforge/rapier3d-compat), with its default settings.
// Usage: node core/bench/rapier.mjs SCENE.json STATE.json ; prints one JSON line, writes the end state.
import { readFileSync, writeFileSync } from 'node:fs';
import RAPIER from '@dimforge/rapier3d-compat';

const warn = console.warn;
console.warn = () => {};
await RAPIER.init();
console.warn = warn;
const [file, out] = process.argv.slice(2);
const scene = JSON.parse(readFileSync(file, 'utf8'));
const world = new RAPIER.World({ x: scene.gravity[0], y: scene.gravity[1], z: scene.gravity[2] });
world.timestep = scene.dt;
const floor = world.createRigidBody(RAPIER.RigidBodyDesc.fixed().setTranslation(...scene.floor.center));
world.createCollider(
  RAPIER.ColliderDesc.cuboid(...scene.floor.halfExtents)
    .setFriction(scene.friction)
    .setRestitution(scene.restitution),
  floor,
);
const bodies = scene.bodies.map((body) => {
  const rigid = world.createRigidBody(RAPIER.RigidBodyDesc.dynamic().setTranslation(...body.position));
  const hull = RAPIER.ColliderDesc.convexHull(Float32Array.from(body.vertices.flat()));
  world.createCollider(
    hull.setDensity(scene.density).setFriction(scene.friction).setRestitution(scene.restitution),
    rigid,
  );
  return rigid;
});
let wall = 0;
for (let step = 0; step < scene.steps; step++) {
  const begin = performance.now();
  world.step();
  wall += performance.now() - begin;
}
const state = bodies.map((body) => {
  const p = body.translation();
  const q = body.rotation();
  return { p: [p.x, p.y, p.z], q: [q.x, q.y, q.z, q.w], asleep: body.isSleeping() };
});
writeFileSync(out, JSON.stringify({ state }));
console.log(
  JSON.stringify({
    bench: scene.name,
    engine: `rapier ${RAPIER.version()}`,
    wall_s: +(wall / 1000).toFixed(3),
    asleep: state.filter((s) => s.asleep).length,
  }),
);
