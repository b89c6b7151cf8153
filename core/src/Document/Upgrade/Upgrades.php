<?php

declare(strict_types=1);

namespace YardBreak\Core\Document\Upgrade;

/** Brings documents of older versions to the newest, one version at a time. What is stored stays as it was stored. */
final class Upgrades
{
    public const NEWEST = 2;

    /** @throws \YardBreak\Core\Document\BadDocument if an old document is not valid */
    public static function newest(mixed $document): mixed
    {
        if (is_array($document) && ($document['version'] ?? null) === 1) {
            $document = V1ToV2::of($document);
        }

        return $document;
    }
}
