<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Joint as Asked;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Rigid\Joint\Joint;
use YardBreak\Core\Motion\Rigid\Joint\JointEnd;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Kind\JoinsHard;
use YardBreak\Core\Stage\Kind\Kinds;

/** The joints of a shot, between its hard pieces: each holds on to the piece that is nearest to its place at the first frame. */
final class RigidJoints
{
    /** @var list<array{Asked, Joint}> */
    private array $joints = [];

    /** @param array<string, HardProp> $props by id */
    public function __construct(Shot $shot, array $props, private readonly RigidWorld $world)
    {
        foreach ($shot->joints as $asked) {
            $one = $props[$asked->prop] ?? null;
            $other = $props[$asked->other] ?? null;
            $kind = Kinds::joint($asked->kind->kind);
            // What holds on to nothing, or to what is not hard, is said by a check.
            if (! is_a($kind, JoinsHard::class, true) || ! $one instanceof RigidProp || ($other instanceof RigidProp ? $one === $other : $asked->other !== '')) {
                continue;
            }
            [$from, $to] = $kind::places($asked->kind->settings);
            $a = JointEnd::on($world->bodies, $one->pieces->nearest($from), $from);
            $b = ! $other instanceof RigidProp ? JointEnd::fixed($to) : JointEnd::on($world->bodies, $other->pieces->nearest($to), $to);
            $joint = $kind::make($asked->kind->settings, $a, $b, $asked->strength, $asked->touch, $world->bodies);
            $world->joints->add($joint);
            $this->joints[] = [$asked, $joint];
        }
    }

    /** @return list<int> what joints that hold hang on */
    public function shapes(): array
    {
        $shapes = [];
        foreach ($this->joints as [, $joint]) {
            foreach ($joint->holds ? [$joint->a->shape, $joint->b->shape] : [] as $shape) {
                if ($shape !== null) {
                    $shapes[] = $shape;
                }
            }
        }

        return $shapes;
    }

    /** Cuts all that are due by this frame. */
    public function cutBy(float $frame): void
    {
        foreach ($this->joints as [$asked, $joint]) {
            if ($asked->cut !== null && $frame >= $asked->cut) {
                $this->world->joints->cut($joint);
            }
        }
    }

    /** @return list<Track> where the ends of each are, and whether it holds */
    public function tracks(): array
    {
        return array_map(static fn (array $pair): Track => new Track($pair[0]->id, Track::ENDS, 1), $this->joints);
    }

    /** @return list<list<float>> the same at this moment */
    public function ends(): array
    {
        return array_map(function (array $pair): array {
            [, $joint] = $pair;
            $joint->follow($this->world->bodies, []);

            return [...$joint->a->place, ...$joint->b->place, $joint->holds ? 1.0 : 0.0];
        }, $this->joints);
    }
}
