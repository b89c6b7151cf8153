<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Support\FileStageStore;
use YardBreak\Core\Bake\FramesFile;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\HandOff\HandOff;
use YardBreak\Core\Stage\Pipeline;

final class ExportBake extends ComputeCommand
{
    protected $signature = 'yard:export
        {bake : Folder that yard:bake wrote}
        {out : File to write: .glb (animated) or .obj (one frame)}
        {--frame=1 : Frame for OBJ}
        {--assets= : Folder in which the shot’s art lies, if it has any (default: the bake’s folder)}';

    protected $description = 'Export a bake as animated GLB, or its pieces at one frame as OBJ';

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
        if ($pipeline->motionHash($shot) !== FramesFile::readHeader($frames)['hash']) {
            throw new BadFile("The frames in “{$folder}” were not made from its shot.json. Bake again.");
        }
        $handOff = new HandOff($pipeline);
        $bytes = match (strtolower(pathinfo($out, PATHINFO_EXTENSION))) {
            'glb' => $handOff->glb($shot, $frames, basename($out, '.glb')),
            'obj' => $handOff->obj($shot, $frames, (int) $this->text('frame')),
            default => throw new BadFile('Write to a file that ends in .glb or .obj.'),
        };
        self::write($out, $bytes);

        return ['bake' => $folder, 'out' => $out, 'bytes' => strlen($bytes)];
    }
}
