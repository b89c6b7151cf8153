<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Refusal;
use YardBreak\Core\Stage\Kind\ByMotion;
use YardBreak\Core\Stage\Kind\Kinds;

/** Puts cues that are found where they are found. What hangs on one may move what another waits for, so it is looked again. */
final class CueFrames
{
    /**
     * The document stands for itself afterwards: a cue has its frame, whoever reads it.
     *
     * @param array<mixed> $document complete
     * @param Shot $shot the same as values
     *
     * @return array<mixed>
     *
     * @throws BadDocument
     */
    public static function found(array $document, Shot $shot, Surfaces $surfaces): array
    {
        $cues = $document['cues'] ?? [];
        if (! is_array($cues)) {
            return $document;
        }
        for ($round = 0; $round <= count($cues); $round++) {
            $moved = false;
            $number = 0;
            foreach ($shot->cueMoments() as $id => $moment) {
                $frame = self::frame($shot, $id, $surfaces);
                if ($frame !== null && $frame !== $shot->cues[$id]['frame']) {
                    $cues[$number] = array_replace(is_array($cues[$number]) ? $cues[$number] : [], ['frame' => $frame]);
                    $moved = true;
                }
                $number++;
            }
            if (! $moved) {
                break;
            }
            $document['cues'] = $cues;
            $shot = Shot::read($document);
        }

        return $document;
    }

    /** Whether some of a shot's cues are found in what was baked. */
    public static function goByMotion(Shot $shot): bool
    {
        foreach (array_keys($shot->cueMoments()) as $cue) {
            if (self::goesByMotion($shot, $cue)) {
                return true;
            }
        }

        return false;
    }

    public static function goesByMotion(Shot $shot, string $cue): bool
    {
        $moment = $shot->cueMoments()[$cue] ?? null;
        $kind = $moment === null ? null : Kinds::moment($moment->kind);

        return $moment !== null && $kind !== null && is_a($kind, ByMotion::class, true) && $kind::goesByMotion($moment->settings, $shot);
    }

    /** The first whole frame at which what a cue waits for has happened; null: it never does, or waits for nothing. */
    public static function frame(Shot $shot, string $cue, Surfaces $surfaces): ?int
    {
        $moment = $shot->cueMoments()[$cue] ?? null;
        $stage = $moment === null ? null : Kinds::moment($moment->kind)::find($moment->settings, $shot, $surfaces);
        try {
            $found = $stage === null ? null : $surfaces->result($stage);
        } catch (Refusal) {
            // A prop has no mesh yet; that is said where it is missing.
            return null;
        }

        return $found === null ? null : (int) ceil($found - 1e-6);
    }
}
