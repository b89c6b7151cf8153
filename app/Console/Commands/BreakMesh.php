<?php

declare(strict_types=1);

namespace App\Console\Commands;

use YardBreak\Core\Bake\HandOff;
use YardBreak\Core\Bake\MemoryStore;
use YardBreak\Core\Bake\NoAssets;
use YardBreak\Core\Bake\Pipeline;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Shot\BreakSettings;
use YardBreak\Core\Shot\Shot;

final class BreakMesh extends ComputeCommand
{
    protected $signature = 'yard:break
        {file : Mesh file (OBJ, STL, PLY or GLB)}
        {out : File to write (.glb), or a folder for one OBJ a piece}
        {--pattern= : cellular, web, courses, halving or grain}
        {--pieces= : How many cells to cut}
        {--seed= : Another number gives another break}
        {--evenness= : 0 for pieces of all sizes, 1 for nearly equal ones}
        {--settings= : JSON file with the fields of "break" in a shot document}
        {--set=* : Any other field of it, as name=value (at=0.1,0,0.2 for a place)}
        {--prefix=piece : Name of the pieces}';

    protected $description = 'Break a mesh file into closed pieces';

    protected function compute(): array
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $file = $this->text('file');
        $out = $this->text('out');
        $settings = $this->settings();
        $begin = microtime(true);
        $mesh = MeshReader::read($file, basename($file));
        $mesh = $mesh->normals === null ? Normals::computed($mesh) : $mesh;
        $this->say("{$file}: {$mesh->triangleCount()} triangles");
        $broken = $pipeline->brokenMesh($mesh, $settings);
        $seconds = microtime(true) - $begin;
        $this->say(sprintf('%d pieces in %.2f s', count($broken->pieces), $seconds));
        $prefix = preg_replace('/[^A-Za-z0-9_-]/', '-', $this->text('prefix')) ?: 'piece';
        if (str_ends_with(strtolower($out), '.glb')) {
            self::write($out, HandOff::restGlb($broken, $prefix));
        } else {
            $folder = self::folder($out);
            foreach ($broken->pieces as $k => $piece) {
                $name = sprintf('%s-%03d', $prefix, $k + 1);
                self::write("{$folder}/{$name}.obj", ObjWriter::write([[$name, $piece]]));
            }
        }
        $volumes = array_map(static fn (MassProperties $mass): float => $mass->volume, $broken->mass);
        $whole = MassProperties::of($mesh)->volume;

        return [
            'file' => $file,
            'out' => $out,
            'settings' => ['pattern' => $settings->how->pattern, 'pieces' => $settings->how->pieces, 'seed' => $settings->how->seed, 'evenness' => $settings->how->evenness],
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

    /** From the file, then the options; checked by the schema, as in a shot. */
    private function settings(): BreakSettings
    {
        $given = $this->text('settings') === '' ? [] : self::jsonFile($this->text('settings'));
        $options = [];
        foreach (['pattern', 'pieces', 'seed', 'evenness'] as $name) {
            $options[$name] = $this->option($name);
        }
        foreach ((array) $this->option('set') as $pair) {
            [$name, $value] = [...explode('=', is_string($pair) ? $pair : '', 2), ''];
            $options[$name] = $value;
        }
        foreach ($options as $name => $value) {
            if (! is_string($value)) {
                continue;
            }
            $parts = explode(',', $value);
            $given[$name] = match (true) {
                count($parts) === 3 => ['x' => (float) $parts[0], 'y' => (float) $parts[1], 'z' => (float) $parts[2]],
                is_numeric($value) => $value + 0,
                default => $value,
            };
        }

        return Shot::read(['version' => 1, 'props' => [['id' => 'file', 'name' => 'File', 'break' => $given]]])->props[0]->break;
    }
}
