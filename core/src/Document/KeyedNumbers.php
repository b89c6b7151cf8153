<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** What every number of a document that is keyed is at each frame. */
final class KeyedNumbers
{
    /**
     * @return array<string, list<float>> by JSON Pointer, from frame 1 on
     *
     * @throws BadDocument
     */
    public static function of(Settings $settings, int $frames): array
    {
        $found = [];
        self::add($settings, '', $frames, $found);

        return $found;
    }

    /**
     * @param array<string, list<float>> $found
     *
     * @throws BadDocument
     */
    private static function add(Settings $settings, string $pointer, int $frames, array &$found): void
    {
        $idle = $settings->idle();
        foreach ($settings->values() as $name => $value) {
            $name = (string) $name;
            if (! is_array($value) || in_array($name, $idle, true)) {
                continue;
            }
            if ($settings->isKeyed($name)) {
                $number = $settings->animated($name);
                $found["{$pointer}/{$name}"] = array_map($number->at(...), range(1.0, (float) $frames));
            } else {
                self::add($settings->at($name), "{$pointer}/{$name}", $frames, $found);
            }
        }
    }
}
