<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

/** A prop whose pieces are where they are by the frame alone. */
interface PosedParts
{
    /** @return list<float> how far each piece has got, 0 to 1 */
    public function progress(float $frame): array;

    /**
     * @param list<float> $progress
     *
     * @return list<float> of the weight track
     */
    public function weights(float $frame, array $progress): array;

    /**
     * @param list<float> $progress
     *
     * @return array{list<float>, list<float>} poses and scales, along each piece's own axes
     */
    public function place(float $frame, array $progress): array;
}
