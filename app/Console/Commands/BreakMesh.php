<?php

declare(strict_types=1);

namespace App\Console\Commands;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\HandOff\AnimatedGlb;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;

final class BreakMesh extends ComputeCommand
{
    protected $signature = 'yard:break
        {file : Mesh file (OBJ, STL, PLY or GLB)}
        {out : File to write (.glb), or a folder for one OBJ a piece}
        {--pattern= : A pattern of the reference: cellular, web, courses, halving, grain, flakes ...}
        {--pieces= : How many cells to cut}
        {--seed= : Another number gives another break}
        {--evenness= : 0 for pieces of all sizes, 1 for nearly equal ones}
        {--settings= : JSON file with the fields of "break" in a shot document}
        {--units= : What numbers in the file stand for: m, cm, mm, in or ft}
        {--up= : Which axis of the file points up: y or z}
        {--size= : Longest side after scaling, m}
        {--repair : Mend the mesh first}
        {--set=* : Any other field of the pattern or the finish, as name=value (at=0.1,0,0.2 for a place)}
        {--prefix=piece : Name of the pieces}';

    protected $description = 'Break a mesh file into closed pieces';

    protected function compute(): array
    {
        $file = $this->text('file');
        $out = $this->text('out');
        $hash = is_file($file) ? hash_file('sha256', $file) : false;
        if ($hash === false) {
            throw new BadFile("“{$file}” cannot be opened. Check the path and its permissions.");
        }
        $prop = $this->prop($hash, basename($file));
        $pipeline = new Pipeline(new MemoryStore(), new ListedAssets([$hash => $file]));
        $begin = microtime(true);
        $source = $pipeline->source($prop);
        $this->say("{$file}: {$source->mesh->triangleCount()} triangles");
        foreach ($source->repairs ?? [] as $done) {
            $this->say($done);
        }
        $broken = $pipeline->broken($prop);
        $seconds = microtime(true) - $begin;
        $this->say(sprintf('%d pieces in %.2f s', count($broken->pieces), $seconds));
        $prefix = preg_replace('/[^A-Za-z0-9_-]/', '-', $this->text('prefix')) ?: 'piece';
        if (str_ends_with(strtolower($out), '.glb')) {
            self::write($out, AnimatedGlb::atRest($broken, $prefix));
        } else {
            $folder = self::folder($out);
            foreach ($broken->pieces as $k => $piece) {
                $name = sprintf('%s-%03d', $prefix, $k + 1);
                self::write("{$folder}/{$name}.obj", ObjWriter::write([[$name, $piece]]));
            }
        }
        $volumes = array_map(static fn (MassProperties $mass): float => $mass->volume, $broken->mass);
        $whole = MassProperties::of($source->mesh)->volume;

        return [
            'file' => $file,
            'out' => $out,
            'settings' => ['pattern' => $prop->pattern->kind] + $prop->pattern->settings->inForce(),
            'repairs' => $source->repairs,
            'pieces' => count($broken->pieces),
            'joined_slivers' => $broken->joined,
            'taken_away' => $broken->discarded,
            'touching_pairs' => count($broken->touching),
            'volume' => $whole,
            // An open sheet has no volume that its flakes could differ from.
            'volume_error' => $whole > 0.0 && ! $broken->hasCore ? (array_sum($volumes) + $broken->discarded) / $whole - 1.0 : null,
            'smallest' => $volumes === [] ? 0.0 : min($volumes),
            'largest' => $volumes === [] ? 0.0 : max($volumes),
            'triangles' => array_sum(array_map(static fn (TriangleMesh $piece): int => $piece->triangleCount(), iterator_to_array($broken->pieces))),
            'seconds' => round($seconds, 3),
        ];
    }

    /** From the file, then the options; checked by the schema, as in a shot. A file of version 1 has no kinds: it is upgraded. */
    private function prop(string $asset, string $fileName): Prop
    {
        $given = $this->text('settings') === '' ? [] : self::jsonFile($this->text('settings'));
        $fields = Schema::load()->field(['props', '0', 'break'])['properties'] ?? [];
        $version = array_diff_key($given, is_array($fields) ? $fields : []) === [] ? 2 : 1;
        $break = self::filled(['version' => $version, 'props' => [['id' => 'file', 'name' => 'File', 'break' => $given]]]);
        $options = array_filter([...$this->sets(), 'pieces' => $this->option('pieces'), 'seed' => $this->option('seed'), 'evenness' => $this->option('evenness')], is_string(...));
        $pattern = $this->option('pattern') ?? ($options['pattern'] ?? $break['pattern']);
        unset($options['pattern']);
        $break['pattern'] = $pattern;
        $kind = is_string($pattern) ? Schema::load()->field(['props', '0', 'break', $pattern])['properties'] ?? [] : [];
        foreach ($options as $name => $value) {
            // Of the pattern, or of the finish; what neither has is refused by the schema, by its name.
            $owner = is_array($kind) && ! isset($kind[$name]) && isset(Schema::load()->field(['props', '0', 'break', 'finish'])['properties'][$name]) ? 'finish' : $pattern;
            if (is_string($owner)) {
                $break[$owner] = [...is_array($break[$owner] ?? null) ? $break[$owner] : [], $name => self::value($value)];
            }
        }

        $source = ['asset' => $asset, 'fileName' => $fileName, 'repair' => (bool) $this->option('repair')] + array_filter(['units' => $this->option('units'), 'up' => $this->option('up')], is_string(...));
        $prepare = is_string($this->option('size')) ? ['size' => self::value($this->option('size'))] : [];

        return Shot::read(['version' => 2, 'props' => [['id' => 'file', 'name' => 'File', 'source' => ['kind' => 'file', 'file' => $source], 'prepare' => $prepare, 'break' => $break]]])->props[0];
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<mixed> its prop's break
     */
    private static function filled(array $document): array
    {
        $props = Schema::load()->complete($document)['props'] ?? [];
        $prop = is_array($props) ? ($props[0] ?? []) : [];

        return is_array($prop) && is_array($prop['break'] ?? null) ? $prop['break'] : [];
    }

    /** @return array<string, string> of --set */
    private function sets(): array
    {
        $sets = [];
        foreach ((array) $this->option('set') as $pair) {
            [$name, $value] = [...explode('=', is_string($pair) ? $pair : '', 2), ''];
            $sets[$name] = $value;
        }

        return $sets;
    }

    private static function value(string $value): mixed
    {
        $parts = explode(',', $value);

        return match (true) {
            count($parts) === 3 => ['x' => (float) $parts[0], 'y' => (float) $parts[1], 'z' => (float) $parts[2]],
            is_numeric($value) => $value + 0,
            $value === 'true', $value === 'false' => $value === 'true',
            default => $value,
        };
    }
}
