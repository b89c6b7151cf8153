<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture\Dummy;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\Surfaces;

/** A mover: everything rises by so much a frame. */
final readonly class Lifts implements Mover, MoverKind
{
    /**
     * @param list<Prop> $props
     * @param list<BrokenProp> $broken
     */
    private function __construct(private array $props, private array $broken)
    {
    }

    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        return new self($props, $broken);
    }

    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->props as $k => $prop) {
            $tracks[] = new Track($prop->id, Track::POSE, count($this->broken[$k]->pieces));
            $tracks[] = new Track($prop->id, Track::FLAGS, count($this->broken[$k]->pieces));
        }

        return $tracks;
    }

    public function write(float $frame): array
    {
        $values = [];
        foreach ($this->props as $k => $prop) {
            $poses = [];
            foreach ($this->broken[$k]->mass as $mass) {
                array_push($poses, $mass->centre[0], $mass->centre[1] + $prop->mover->settings->float('rise') * $frame, $mass->centre[2], 0.0, 0.0, 0.0, 1.0);
            }
            array_push($values, $poses, array_fill(0, count($this->broken[$k]->pieces), 0));
        }

        return [$values, ['released' => 0.0, 'moving' => 0.0, 'kinetic' => 0.0]];
    }

    public function release(float $frame): void
    {
    }

    public function meet(array $others): void
    {
    }

    public function drive(float $from, float $to, float $dt): void
    {
    }

    public function begin(float $from, float $to, float $dt, Closure $others): void
    {
    }

    public function colliders(): array
    {
        return [];
    }

    public function substep(int $number): void
    {
    }

    public function end(bool $over): void
    {
    }

    public function save(): string
    {
        return '';
    }

    public function restore(string $state): void
    {
    }
}
