<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Support\FileStageStore;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\Stage\Pipeline;

final class ExportBake extends ComputeCommand
{
    protected $signature = 'yard:export
        {bake : Folder that yard:bake wrote}
        {out : File to write: .glb, .usda or .usdz (animated), .obj, .ply or .stl (one frame), .obj.zip, .ply.zip or .stl.zip (each frame), .csv (a row a piece)}
        {--frame=1 : Frame for what shows one}
        {--assets= : Folder in which the shot’s art lies, if it has any (default: the bake’s folder)}';

    protected $description = 'Write a bake in an open format: animated, single frames, or what becomes of each piece';

    protected function compute(): array
    {
        $folder = rtrim($this->text('bake'), '/');
        $out = $this->text('out');
        $shot = Shot::read(self::jsonFile("{$folder}/shot.json"));
        $frames = "{$folder}/bake.frames";
        if (! is_file($frames)) {
            throw new BadFile("“{$folder}” holds no bake. Run yard:bake first.");
        }
        $pipeline = new Pipeline(new FileStageStore("{$folder}/stages"), new FolderAssets($this->text('assets') === '' ? $folder : $this->text('assets'), $shot));
        $bake = BakeReader::open($frames);
        if ($pipeline->motionHash($shot) !== $bake->manifest->hash) {
            throw new BadFile("The frames in “{$folder}” were not made from its shot.json. Bake again.");
        }
        $format = Exporters::ending($out, $pipeline);
        $exporter = Exporters::of($format, $pipeline);
        // Beside its place until it is whole.
        $part = "{$out}.part";
        $file = @fopen($part, 'wb') ?: throw new BadFile("“{$out}” cannot be written.");
        try {
            $exporter->write($shot, $bake, $file, basename($out, ".{$format}"), ['frame' => (int) $this->text('frame')], static fn (int $done, int $of): null => null);
            if (! fclose($file) || ! rename($part, $out)) {
                throw new BadFile("“{$out}” cannot be written: is the disk full?");
            }
        } finally {
            @unlink($part);
        }

        return ['bake' => $folder, 'out' => $out, 'bytes' => (int) filesize($out)];
    }
}
