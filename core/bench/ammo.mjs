// The pile scene in ammo.js (npm ammo.js 0.0.10, a port of a widely used C++ engine to JavaScript), with its default settings.
// Usage: node core/bench/ammo.mjs SCENE.json STATE.json ; prints one JSON line, writes the end state.
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const require = createRequire(import.meta.url);
// The package starts itself with a heap of 64 MB, which 1,024 bodies outgrow; the same code is given more.
const source = readFileSync(require.resolve('ammo.js'), 'utf8').replace(
  /return Ammo\(\);\s*\}\);?\s*$/,
  'return Ammo({ TOTAL_MEMORY: 536870912 }); });',
);
const box = { exports: {} };
new Function('module', 'exports', 'require', '__dirname', source)(box, box.exports, require, '.');
const A = box.exports;
const [file, out] = process.argv.slice(2);
const scene = JSON.parse(readFileSync(file, 'utf8'));
const settings = new A.btDefaultCollisionConfiguration();
const world = new A.btDiscreteDynamicsWorld(
  new A.btCollisionDispatcher(settings),
  new A.btDbvtBroadphase(),
  new A.btSequentialImpulseConstraintSolver(),
  settings,
);
world.setGravity(new A.btVector3(...scene.gravity));
const add = (shape, place, mass) => {
  const at = new A.btTransform();
  at.setIdentity();
  at.setOrigin(new A.btVector3(...place));
  const inertia = new A.btVector3(0, 0, 0);
  if (mass) shape.calculateLocalInertia(mass, inertia);
  const body = new A.btRigidBody(
    new A.btRigidBodyConstructionInfo(mass, new A.btDefaultMotionState(at), shape, inertia),
  );
  // It multiplies the two bodies' values: roots give the scene's.
  body.setFriction(Math.sqrt(scene.friction));
  body.setRestitution(Math.sqrt(scene.restitution));
  world.addRigidBody(body);
  return body;
};
add(new A.btBoxShape(new A.btVector3(...scene.floor.halfExtents)), scene.floor.center, 0);
const corner = new A.btVector3(0, 0, 0);
const bodies = scene.bodies.map((body) => {
  const hull = new A.btConvexHullShape();
  for (const [x, y, z] of body.vertices) {
    corner.setX(x);
    corner.setY(y);
    corner.setZ(z);
    hull.addPoint(corner);
  }
  hull.setMargin(0.001);
  return add(hull, body.position, body.mass);
});
let wall = 0;
for (let step = 0; step < scene.steps; step++) {
  const begin = performance.now();
  world.stepSimulation(scene.dt, 1, scene.dt);
  wall += performance.now() - begin;
}
const state = bodies.map((body) => {
  const at = body.getWorldTransform();
  const p = at.getOrigin();
  const q = at.getRotation();
  return { p: [p.x(), p.y(), p.z()], q: [q.x(), q.y(), q.z(), q.w()], asleep: !body.isActive() };
});
writeFileSync(out, JSON.stringify({ state }));
console.log(
  JSON.stringify({
    bench: scene.name,
    engine: 'ammo.js 0.0.10',
    wall_s: +(wall / 1000).toFixed(3),
    asleep: state.filter((s) => s.asleep).length,
  }),
);
