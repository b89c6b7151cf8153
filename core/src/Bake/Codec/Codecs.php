<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake\Codec;

use LogicException;
use YardBreak\Core\Motion\Track;

/** How each kind of track is written: the one place that knows. */
final class Codecs
{
    public static function of(string $kind): TrackCodec
    {
        return match ($kind) {
            Track::POSE => new PoseCodec(),
            Track::SCALE => new SinglesCodec(3),
            Track::ENDS => new SinglesCodec(7),
            Track::VERTICES => new VertexCodec(),
            Track::WEIGHT, Track::LIFE => new ByteCodec(true),
            Track::FLAGS => new ByteCodec(false),
            default => throw new LogicException("Nobody knows how to write a track of “{$kind}”."),
        };
    }
}
