<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Motion\Trigger;

/** A way to let go, made from its settings. */
interface TriggerKind
{
    /**
     * @param list<array{float, float, float}> $middles of the pieces, in the prop's space, m; none where it does not matter which lets go first
     *
     * @throws BadDocument if a cue that is named does not exist
     */
    public static function make(Settings $settings, array $middles = []): Trigger;

    /** @return list<mixed> what decides it; the same list means the same moments */
    public static function inputs(Settings $settings): array;

    /** The frame at which it lets go, if that is known beforehand and the same for all of it. */
    public static function frame(Settings $settings): ?int;
}
