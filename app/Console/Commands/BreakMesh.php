<?php

declare(strict_types=1);

namespace App\Console\Commands;

use YardBreak\Core\Bake\BrokenProp;
use YardBreak\Core\Bake\HandOff;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Shot\ShotSchema;

final class BreakMesh extends ComputeCommand
{
    protected $signature = 'yard:break
        {file : Mesh file (OBJ, STL, PLY or GLB)}
        {out : File to write (.glb), or a folder for one OBJ a piece}
        {--pieces= : How many cells to cut}
        {--seed= : Another number gives another break}
        {--evenness= : 0 for pieces of all sizes, 1 for nearly equal ones}
        {--settings= : JSON file with the fields of "break" in a shot document}
        {--prefix=piece : Name of the pieces}';

    protected $description = 'Break a mesh file into closed pieces';

    protected function compute(): array
    {
        $file = $this->text('file');
        $out = $this->text('out');
        $settings = $this->settings();
        $begin = microtime(true);
        $mesh = MeshReader::read($file, basename($file));
        $mesh = $mesh->normals === null ? Normals::computed($mesh) : $mesh;
        $this->say("{$file}: {$mesh->triangleCount()} triangles");
        $pieces = (new CellularPattern((int) $settings['pieces'], (int) $settings['seed'], (float) $settings['evenness']))->break($mesh);
        $seconds = microtime(true) - $begin;
        $this->say(sprintf('%d pieces in %.2f s', count($pieces), $seconds));
        $broken = new BrokenProp('', array_map(static fn ($piece) => $piece->mesh, $pieces), $mesh->bounds());
        $prefix = preg_replace('/[^A-Za-z0-9_-]/', '-', $this->text('prefix')) ?: 'piece';
        if (str_ends_with(strtolower($out), '.glb')) {
            self::write($out, HandOff::restGlb($broken, $prefix));
        } else {
            $folder = self::folder($out);
            foreach ($pieces as $k => $piece) {
                $name = sprintf('%s-%03d', $prefix, $k + 1);
                self::write("{$folder}/{$name}.obj", ObjWriter::write([[$name, $piece->mesh]]));
            }
        }
        $volumes = array_map(static fn ($piece): float => $piece->mass->volume, $pieces);
        $whole = MassProperties::of($mesh)->volume;

        return [
            'file' => $file,
            'out' => $out,
            'settings' => $settings,
            'pieces' => count($pieces),
            'volume' => $whole,
            'volume_error' => array_sum($volumes) / $whole - 1.0,
            'smallest' => $volumes === [] ? 0.0 : min($volumes),
            'largest' => $volumes === [] ? 0.0 : max($volumes),
            'triangles' => array_sum(array_map(static fn ($piece): int => $piece->mesh->triangleCount(), $pieces)),
            'seconds' => round($seconds, 3),
        ];
    }

    /** @return array{pieces: float, seed: float, evenness: float} from the file, then the options, checked by the schema's limits */
    private function settings(): array
    {
        $given = $this->text('settings') === '' ? [] : self::jsonFile($this->text('settings'));
        $values = [];
        foreach (['pieces', 'seed', 'evenness'] as $name) {
            $field = ShotSchema::load()->field(['props', '0', 'break', $name]);
            $low = is_numeric($field['minimum'] ?? null) ? (float) $field['minimum'] : 0.0;
            $high = is_numeric($field['maximum'] ?? null) ? (float) $field['maximum'] : 0.0;
            $standard = is_numeric($field['default'] ?? null) ? (float) $field['default'] : 0.0;
            $option = $this->option($name);
            $value = is_string($option) ? $option : ($given[$name] ?? $standard);
            if (! is_numeric($value) || (float) $value < $low || (float) $value > $high) {
                throw new BadFile("{$name} must be a number from {$low} to {$high}.");
            }
            $values[$name] = (float) $value;
        }

        return ['pieces' => $values['pieces'], 'seed' => $values['seed'], 'evenness' => $values['evenness']];
    }
}
