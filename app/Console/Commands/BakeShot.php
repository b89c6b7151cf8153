<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Support\FileStageStore;
use YardBreak\Core\Bake\FramesFile;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\Consistency;
use YardBreak\Core\Stage\Pipeline;

final class BakeShot extends ComputeCommand
{
    protected $signature = 'yard:bake
        {shot : Shot document (JSON)}
        {out : Folder to write to}
        {--assets= : Folder in which the shot’s mesh files lie, by SHA-256 or by name (default: beside the document)}';

    protected $description = 'Bake a shot document into a folder: frames, stage results and the document itself';

    protected function compute(): array
    {
        $path = $this->text('shot');
        $document = self::jsonFile($path);
        $shot = Shot::read($document);
        Consistency::check($shot);
        if ($shot->props === []) {
            throw new BadDocument([['pointer' => '/props', 'detail' => 'The shot has no props.']]);
        }
        $out = self::folder($this->text('out'));
        $assets = $this->text('assets') === '' ? dirname($path) : $this->text('assets');
        $pipeline = new Pipeline(new FileStageStore("{$out}/stages"), new FolderAssets($assets, $shot));
        $begin = microtime(true);
        $file = null;
        $last = null;
        $hash = $pipeline->motionHash($shot);
        foreach ($pipeline->frames($shot) as $number => $frame) {
            if ($file === null) {
                $file = @fopen("{$out}/bake.frames", 'wb') ?: throw new BadFile("“{$out}/bake.frames” cannot be written. Is the folder yours, and is there room?");
                self::append($file, FramesFile::header(count($frame->flags), $shot->fps, $shot->frames, $hash));
            }
            self::append($file, FramesFile::record($frame));
            $elapsed = microtime(true) - $begin;
            $this->say(sprintf('frame %d of %d, %.1f s left', $number, $shot->frames, $elapsed / $number * ($shot->frames - $number)));
            $last = $frame;
        }
        if ($file !== null) {
            fclose($file);
        }
        self::write("{$out}/shot.json", (string) json_encode(Schema::load()->complete($document), JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE));

        return [
            'shot' => $path,
            'out' => $out,
            'hash' => $hash,
            'frames' => $shot->frames,
            'pieces' => $last === null ? 0 : count($last->flags),
            'released' => $last?->released,
            'moving_at_end' => $last?->moving,
            'frames_sha256' => hash_file('sha256', "{$out}/bake.frames"),
            'seconds' => round(microtime(true) - $begin, 2),
        ];
    }

    /** @param resource $file */
    private static function append($file, string $bytes): void
    {
        if (@fwrite($file, $bytes) !== strlen($bytes)) {
            throw new BadFile('The frames could not be written: is the disk full? Make room and bake again.');
        }
    }
}
