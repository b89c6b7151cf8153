<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Falloff;

/** How far a force reaches from a place: wholly within a distance, not at all past a soft edge beyond it. */
final readonly class Extent
{
    /**
     * @param list<Animated> $at x, y and z of the place, m
     * @param Animated $within m
     * @param float $softness width of the edge, m
     */
    public function __construct(private array $at, private Animated $within, private float $softness, private Falloff $edge)
    {
    }

    /**
     * @param list<float> $x m
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return list<float> share of the force at each place, 0 to 1
     */
    public function shares(array $x, array $y, array $z, float $frame): array
    {
        [$ox, $oy, $oz] = [$this->at[0]->at($frame), $this->at[1]->at($frame), $this->at[2]->at($frame)];
        $within = $this->within->at($frame);
        $softness = $this->softness;
        $shares = [];
        foreach ($x as $i => $px) {
            $px -= $ox;
            $py = $y[$i] - $oy;
            $pz = $z[$i] - $oz;
            $beyond = sqrt($px * $px + $py * $py + $pz * $pz) - $within;
            $shares[] = $beyond <= 0.0 ? 1.0 : ($beyond >= $softness ? 0.0 : $this->edge->at(1.0 - $beyond / $softness));
        }

        return $shares;
    }

    /** @return list<float> */
    public function sample(float $frame): array
    {
        return [...array_map(static fn (Animated $value): float => $value->at($frame), [...$this->at, $this->within]), $this->softness, (float) crc32(serialize($this->edge->inputs()))];
    }

    /** @return list<Animated> */
    public function animated(): array
    {
        return [...$this->at, $this->within];
    }
}
