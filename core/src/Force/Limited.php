<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

/** A force that reaches only so far. */
final readonly class Limited implements ForceField
{
    use ByPlace;

    public function __construct(private ForceField $field, private Extent $extent)
    {
    }

    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
    {
        $near = $nx = $ny = $nz = $some = [];
        foreach ($this->extent->shares($x, $y, $z, $frame) as $i => $share) {
            if ($share > 0.0) {
                $near[] = $i;
                $nx[] = $x[$i];
                $ny[] = $y[$i];
                $nz[] = $z[$i];
                $some[] = $share;
            }
        }
        if ($near === []) {
            return;
        }
        $own = new Pushes(count($near));
        $this->field->act($nx, $ny, $nz, $frame, $seconds, $own);
        $pushes->add($own, $near, $some);
    }

    public function movesAir(): bool
    {
        return $this->field->movesAir();
    }

    public function sample(float $frame): array
    {
        return [...$this->field->sample($frame), ...$this->extent->sample($frame)];
    }

    public function changes(): array
    {
        return [...$this->field->changes(), ...Changes::of($this->extent->animated())];
    }
}
