<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/** What a cloth wants to be: in which shape, how large, how far grown; how long each edge is then, and how long it may be. */
final class RestState
{
    /** @var array<int, float> of each edge, m */
    public array $length;

    /** @var array<int, float> longest that each edge may be at the end of a frame, m */
    public array $most;

    public RestShape $shape;

    /** How much longer it is than in that shape. */
    public Growth $growth;

    /** @var array{array<int, float>, array<int, float>, array<int, float>} places of its vertices in that shape at the size it was woven, m */
    private array $drawn;

    /** @var array{float, float, float} how many times as large as that it wants to be, along the prop's axes */
    private array $size = [1.0, 1.0, 1.0];

    /** @param list<float> $longest that each edge may be at the end of a frame as it was woven, m */
    public function __construct(private readonly Weave $weave, private readonly array $longest)
    {
        [$this->length, $this->most] = [$weave->length, $longest];
        $this->shape = RestShape::woven($weave);
        $this->growth = Growth::none($weave->count());
        $this->drawn = [$weave->x, $weave->y, $weave->z];
    }

    /** @return bool whether that is new */
    public function grow(Growth $growth): bool
    {
        if ($growth == $this->growth) {
            return false;
        }
        $this->growth = $growth;
        $this->measure();

        return true;
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $places of its vertices in another shape of the same triangles, m
     *
     * @return bool whether that is new
     */
    public function draw(array $places): bool
    {
        return $this->lie($places, $this->size);
    }

    /**
     * @param array{float, float, float} $size
     *
     * @return bool whether that is new
     */
    public function size(array $size): bool
    {
        return $this->lie($this->drawn, $size);
    }

    /** How many times as long as it was woven the cloth is between two vertices, along a way in the prop's axes. */
    public function longer(int $a, int $b, float $x, float $y, float $z): float
    {
        return $this->shape->longer($a, $b) * $this->growth->between($a, $b, $x, $y, $z);
    }

    /** How many times as long as it was woven it is where it is longest. */
    public function longest(): float
    {
        return $this->shape->most * $this->growth->most();
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $drawn
     * @param array{float, float, float} $size
     */
    private function lie(array $drawn, array $size): bool
    {
        if ($drawn === $this->drawn && $size === $this->size) {
            return false;
        }
        [$this->drawn, $this->size] = [$drawn, $size];
        $this->shape = RestShape::drawn($this->weave, ...RestShape::sized($drawn, $size));
        $this->measure();

        return true;
    }

    private function measure(): void
    {
        $weave = $this->weave;
        [$growth, $length] = [$this->growth, $this->shape->length];
        [$x, $y, $z] = [$this->shape->x, $this->shape->y, $this->shape->z];
        for ($a = 0, $n = $weave->count(); $a < $n; $a++) {
            for ($c = $weave->first[$a], $end = $weave->first[$a + 1]; $c < $end; $c++) {
                $b = $weave->other[$c];
                $by = $growth->between($a, $b, $x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]);
                $this->length[$c] = $by * $length[$c];
                $this->most[$c] = $by * $this->longest[$c] * ($length[$c] / $weave->length[$c]);
            }
        }
    }
}
