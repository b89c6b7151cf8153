<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Choice;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Rigid\RigidTuning;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Kind\Kinds;

/**
 * Rigid motion of a shot: props are held, driven by keys or fall whole; as pieces let go they become bodies of their own
 * that start with the speed the prop has where they are.
 */
final class RigidStage
{
    private readonly RigidWorld $world;

    /** @var list<ForceField> */
    private readonly array $forces;

    /** @var list<RigidProp> */
    private array $props = [];

    /** @var list<Track> */
    private readonly array $tracks;

    private readonly int $steps;

    private readonly float $dt;

    private readonly ?Closure $tick;

    /**
     * @param list<BrokenProp> $broken in the order of the shot's props
     * @param (callable(): void)|null $tick called once a step
     */
    public function __construct(private readonly Shot $shot, array $broken, ?callable $tick = null)
    {
        $this->tick = $tick === null ? null : $tick(...);
        $this->steps = max(1, (int) ceil(1.0 / $shot->fps / RigidTuning::LONGEST_STEP - 1e-9));
        $this->dt = 1.0 / ($shot->fps * $this->steps);
        $this->forces = array_map(static fn (Choice $force): ForceField => Kinds::force($force->kind)::make($force->settings), $shot->forces);
        $this->world = new RigidWorld($this->gravity(1.0), null, settleSpeed: $shot->settleSpeed);
        foreach ($shot->planes as $plane) {
            $this->world->addPlane($plane->normal, $plane->height, $plane->friction, $plane->restitution);
        }
        foreach ($shot->props as $k => $prop) {
            $this->props[] = new RigidProp($prop, $broken[$k], $this->world, $k);
        }
        $this->tracks = $this->tracks();
    }

    /** @return array{float, float, float} what all forces that are the same everywhere do together */
    private function gravity(float $frame): array
    {
        $sum = [0.0, 0.0, 0.0];
        foreach ($this->forces as $force) {
            $a = $force->uniform($frame);
            if ($a !== null) {
                $sum = [$sum[0] + $a[0], $sum[1] + $a[1], $sum[2] + $a[2]];
            }
        }

        return $sum;
    }

    /** @return iterable<int, Frame> */
    public function frames(): iterable
    {
        foreach ($this->props as $prop) {
            $prop->letGoBy($this->world, 1.0);
        }
        yield 1 => $this->frame(1);
        for ($number = 2; $number <= $this->shot->frames; $number++) {
            for ($s = 0; $s < $this->steps; $s++) {
                $from = $number - 1 + $s / $this->steps;
                $to = $number - 1 + ($s + 1) / $this->steps;
                $this->world->gravity = $this->gravity($from);
                foreach ($this->props as $prop) {
                    $prop->drive($this->world, $from, $to, $this->dt);
                    $prop->noteSpeed($this->world);
                }
                if ($this->tick !== null) {
                    ($this->tick)();
                }
                $before = $this->waiting() ? $this->world->bodies->freeVelocities() : [];
                $this->world->step($this->dt);
                $this->letGoOnContact($before);
            }
            foreach ($this->props as $prop) {
                $prop->letGoBy($this->world, (float) $number);
            }
            yield $number => $this->frame($number);
        }
    }

    private function waiting(): bool
    {
        foreach ($this->props as $prop) {
            if ($prop->waitsForContact()) {
                return true;
            }
        }

        return false;
    }

    /** @param array<int, array{array{float, float, float}, array{float, float, float}}> $before velocity and spin of free bodies before the step */
    private function letGoOnContact(array $before): void
    {
        $owners = [];
        foreach ($this->props as $k => $prop) {
            if ($prop->waitsForContact()) {
                foreach ($prop->shapes() as $shape) {
                    $owners[$shape] = $k;
                }
            }
        }
        if ($owners === []) {
            return;
        }
        foreach ($this->world->touches() as [$a, $b, $speed, $point]) {
            foreach ([[$a, $b], [$b, $a]] as [$shape, $other]) {
                if (isset($owners[$shape]) && $this->props[$owners[$shape]]->touched($this->world, $speed, $point) && $other >= 0) {
                    // What struck it goes on as before: in the next step it meets single pieces, not the whole.
                    $body = $this->world->bodies->bodyOf($other);
                    if (isset($before[$body])) {
                        $this->world->bodies->setVelocity($body, ...$before[$body]);
                    }
                }
            }
        }
    }

    /** @return list<Track> */
    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->shot->props as $k => $prop) {
            $count = count($this->props[$k]->bodies());
            array_push($tracks, new Track($prop->id, Track::POSE, $count), new Track($prop->id, Track::WEIGHT, $count), new Track($prop->id, Track::FLAGS, $count));
        }

        return $tracks;
    }

    private function frame(int $number): Frame
    {
        $values = [];
        $released = 0;
        $moving = 0;
        $kinetic = 0.0;
        $seen = [];
        foreach ($this->props as $prop) {
            $poses = $weights = $flags = [];
            foreach ($prop->bodies() as $piece => $body) {
                array_push($poses, ...$prop->place($this->world, $piece), ...$this->world->bodies->turnOf($body));
                $weights[] = $prop->weight($piece, (float) $number);
                $loose = $prop->hasLetGo($piece);
                $asleep = $this->world->bodies->isAsleep($body);
                $flags[] = ($loose ? Frame::RELEASED : 0) | ($asleep ? Frame::ASLEEP : 0);
                $released += $loose ? 1 : 0;
                if (! $asleep && ($loose || $prop->fallsWhole())) {
                    [$velocity] = $this->world->bodies->velocity($body);
                    $moving += $velocity[0] ** 2 + $velocity[1] ** 2 + $velocity[2] ** 2 > $this->shot->settleSpeed ** 2 ? 1 : 0;
                    if (! isset($seen[$body])) {
                        $seen[$body] = true;
                        $kinetic += $this->world->bodies->kineticEnergy($body);
                    }
                }
            }
            array_push($values, $poses, $weights, $flags);
        }

        return new Frame($number, $this->tracks, $values, ['released' => $released, 'moving' => $moving, 'kinetic' => $kinetic]);
    }
}
