<?php

declare(strict_types=1);

namespace YardBreak\Core\Document\Upgrade;

use YardBreak\Core\Document\Schema;

/**
 * Version 2 has the settings of a kind in an object of their own, triggers apart from weights, forces and floors as lists,
 * and the field's standard names.
 */
final class V1ToV2
{
    private const PREPARE = ['size', 'cutLines', 'cutSeed', 'divide', 'smooth', 'even', 'shell', 'shellGap'];

    private const FINISH = ['roughness', 'fineness', 'fibres', 'smallest', 'thinnest'];

    /** Settings that a kind has under another name than in version 1. */
    private const RENAMED = ['flakes' => ['flakes' => 'count']];

    /**
     * @param array<mixed> $document
     *
     * @return array<mixed>
     */
    public static function of(array $document): array
    {
        $first = Schema::first();
        $first->check($document);
        $old = $first->withAllDefaults($document);
        $floor = self::object($old, 'floor');

        return [
            'version' => 2,
            'fps' => $old['fps'],
            'frames' => $old['frames'],
            'settleSpeed' => $old['settleSpeed'],
            'cues' => $old['cues'],
            'forces' => [['id' => 'gravity', 'name' => 'Gravity', 'force' => 'gravity', 'gravity' => ['strength' => $old['gravity']]]],
            'planes' => [[
                'id' => 'floor', 'name' => 'Floor', 'on' => $floor['on'], 'height' => $floor['height'],
                'friction' => $floor['friction'], 'restitution' => $floor['bounce'],
            ]],
            'props' => array_map(self::prop(...), array_values(self::object($old, 'props'))),
        ];
    }

    /** @return array<mixed> */
    private static function prop(mixed $prop): array
    {
        $prop = is_array($prop) ? $prop : [];
        $source = self::object($prop, 'source');
        $break = self::object($prop, 'break');
        $motion = self::object($prop, 'motion');

        return [
            'id' => $prop['id'],
            'name' => $prop['name'],
            'source' => self::kind('source', 'kind', $source),
            'prepare' => array_intersect_key($source, array_flip(self::PREPARE)),
            'position' => $prop['place'],
            'rotation' => $prop['turn'],
            'break' => [
                ...self::pattern($break),
                'tracing' => $break['tracing'],
                'finish' => [...array_intersect_key($break, array_flip(self::FINISH)), 'seed' => $break['seed']],
                'prefix' => $break['prefix'],
                'edits' => array_map(static function (mixed $edit): mixed {
                    if (is_array($edit)) {
                        $edit['with'] = self::pattern(self::object($edit, 'with'));
                    }

                    return $edit;
                }, self::object($break, 'edits')),
            ],
            ...self::timing(self::object($prop, 'timing')),
            'motion' => ['mover' => 'rigid', 'rigid' => [
                'before' => $motion['before'], 'density' => $motion['density'], 'friction' => $motion['friction'],
                'restitution' => $motion['bounce'], 'velocity' => $motion['velocity'], 'angularVelocity' => $motion['spin'],
            ]],
            'look' => $prop['look'],
        ];
    }

    /**
     * @param array<mixed> $break
     *
     * @return array<mixed>
     */
    private static function pattern(array $break): array
    {
        return self::kind('pattern', 'pattern', $break);
    }

    /**
     * What a kind of version 2 takes of a flat object of version 1.
     *
     * @param array<mixed> $old
     *
     * @return array<mixed>
     */
    private static function kind(string $registry, string $as, array $old): array
    {
        $kind = is_string($old[$as] ?? null) ? $old[$as] : '';
        foreach (self::RENAMED[$kind] ?? [] as $from => $to) {
            $old[$to] = $old[$from] ?? null;
        }
        $fields = Schema::load()->json()['$defs'] ?? [];
        $fields = is_array($fields) ? ($fields["{$registry}.{$kind}"] ?? []) : [];
        $fields = is_array($fields) && is_array($fields['properties'] ?? null) ? $fields['properties'] : [];

        return [$as => $kind, $kind => array_intersect_key($old, $fields)];
    }

    /**
     * @param array<mixed> $timing
     *
     * @return array<mixed>
     */
    private static function timing(array $timing): array
    {
        $front = ['from' => $timing['from'], 'to' => $timing['to'], 'softness' => $timing['softness']];
        $weight = match ($timing['release']) {
            'sweep' => [['source' => 'sweep', 'sweep' => ['axis' => $timing['axis'], 'backwards' => $timing['backwards']] + $front]],
            'blow' => [['source' => 'blow', 'blow' => ['reach' => $timing['spread']] + $front]],
            default => [],
        };

        return [
            'weight' => ['stack' => $weight],
            'release' => match ($timing['release']) {
                'frame' => ['trigger' => 'frame', 'frame' => ['frame' => $timing['frame']]],
                'cue' => ['trigger' => 'cue', 'cue' => ['cue' => $timing['cue']]],
                'contact' => ['trigger' => 'contact', 'contact' => ['speed' => $timing['contactSpeed'], 'within' => $timing['within']]],
                'sweep', 'blow' => ['trigger' => 'weight', 'weight' => ['threshold' => $timing['threshold']]],
                default => ['trigger' => 'never'],
            },
        ];
    }

    /**
     * @param array<mixed> $of
     *
     * @return array<mixed>
     */
    private static function object(array $of, string $key): array
    {
        return is_array($of[$key] ?? null) ? $of[$key] : [];
    }
}
