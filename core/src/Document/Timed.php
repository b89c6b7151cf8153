<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** Something of a document that stands at moments: a number with its keys, or a setting that names a cue. */
final readonly class Timed
{
    /**
     * @param string $pointer JSON Pointer
     * @param list<float> $frames of its keys
     * @param list<string> $cues ids of those it hangs on
     */
    public function __construct(public string $pointer, public string $title, public array $frames, public array $cues)
    {
    }

    /**
     * All that is in force.
     *
     * @return list<self>
     *
     * @throws BadDocument
     */
    public static function of(Settings $settings, string $pointer = ''): array
    {
        $idle = $settings->idle();
        $found = [];
        foreach ($settings->values() as $name => $value) {
            $name = (string) $name;
            if (in_array($name, $idle, true)) {
                continue;
            }
            $field = $settings->fieldOf($name);
            $title = is_string($field['title'] ?? null) ? $field['title'] : $name;
            if (is_array($value) && $settings->isKeyed($name)) {
                $cues = array_filter(array_column((array) ($value['keys'] ?? []), 'cue'), is_string(...));
                $found[] = new self("{$pointer}/{$name}", $title, $settings->animated($name)->frames(), array_values($cues));
            } elseif (is_array($value)) {
                array_push($found, ...self::of($settings->at($name), "{$pointer}/{$name}"));
            } elseif (($field['x-cue'] ?? false) === true && is_string($value) && $value !== '') {
                $found[] = new self("{$pointer}/{$name}", $title, [], [$value]);
            }
        }

        return $found;
    }
}
