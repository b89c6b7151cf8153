<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Asset;
use App\Models\Bake;
use App\Models\Shot;
use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\Consistency;
use YardBreak\Core\Stage\Pipeline;
use ZipArchive;

/**
 * A shot as one file that opens on another machine: a ZIP of its document (`shot.json`), what it is called (`about.json`) and the
 * files that it needs. Which of these is which is told by their content, never by their names. Its bake (`bake.frames`) may be with it.
 */
final readonly class ShotPackage
{
    private const DOCUMENT = 'shot.json';

    private const ABOUT = 'about.json';

    private const FRAMES = 'bake.frames';

    /** Bytes that are read of a document, of a file, and of all that is in a package: a small ZIP may hold very much. */
    private const MOST = ['document' => 1 << 24, 'file' => 1 << 28, 'all' => 1 << 30];

    private const READ = 1 << 20;

    public function __construct(private FileAssets $assets, private Pipeline $pipeline)
    {
    }

    /**
     * @param Bake|null $bake a finished one that goes with it
     *
     * @throws StoreFull if there is no room to write it
     */
    public static function write(Shot $shot, Assets $assets, string $path, ?Bake $bake = null): void
    {
        $document = $shot->head->document ?? [];
        $zip = new ZipArchive();
        @mkdir(dirname($path), 0o775, true);
        if ($zip->open($path, ZipArchive::CREATE | ZipArchive::OVERWRITE) !== true) {
            throw StoreFull::whileKeeping('The package');
        }
        $zip->addFromString(self::DOCUMENT, self::json($document));
        $zip->addFromString(self::ABOUT, self::json(['name' => $shot->name]));
        if ($bake !== null) {
            $zip->addFile($bake->framesPath(), self::FRAMES);
            // It is packed as it is.
            $zip->setCompressionName(self::FRAMES, ZipArchive::CM_STORE);
        }
        $taken = [self::DOCUMENT => true, self::ABOUT => true, self::FRAMES => true];
        foreach (array_keys(self::needed($document)) as $sha) {
            $file = $assets->path($sha) ?? throw new Problem(409, 'The package cannot be made', 'A file of the shot (' . self::called($sha) . ') is not in the store any more. Bring it in again, or take out what uses it.');
            $name = self::called($sha);
            if (isset($taken[mb_strtolower($name)])) {
                $name = substr($sha, 0, 8) . "-{$name}";
            }
            $taken[mb_strtolower($name)] = true;
            $zip->addFile($file, $name);
        }
        if (! $zip->close()) {
            @unlink($path);
            throw StoreFull::whileKeeping('The package');
        }
        $size = (int) filesize($path);
        if ($bake !== null && $size > self::MOST['file']) {
            @unlink($path);
            throw new Problem(409, 'The package would be too large', sprintf('With its bake it has %d MB, and a package opens with 256 at the most. Pack the shot without it: it bakes to the same frames.', $size >> 20));
        }
    }

    /**
     * A shot of its own, as the package has it. Nothing is kept if anything in it is wrong.
     *
     * @param string $otherwise what the shot is called if the package does not say
     */
    public function open(string $path, string $otherwise, ShotBook $book): Shot
    {
        $zip = new ZipArchive();
        if ($zip->open($path, ZipArchive::RDONLY) !== true) {
            throw self::refused('The package is no ZIP, or only a part of one: save it again from the other machine.');
        }
        $folder = sys_get_temp_dir() . '/yard-package-' . bin2hex(random_bytes(6));
        mkdir($folder);
        try {
            $at = self::documentIn($zip);
            $document = json_decode(self::text($zip, "{$at}" . self::DOCUMENT), true);
            if (! is_array($document)) {
                throw self::refused('The package’s “' . self::DOCUMENT . '” is no JSON object.');
            }
            // What can be known to be wrong is, before any file is kept.
            Consistency::check(ShotDocument::read($document));
            $about = $zip->locateName($at . self::ABOUT) === false ? null : json_decode(self::text($zip, $at . self::ABOUT), true);
            $frames = self::framesIn($zip, $at . self::FRAMES, $folder);
            $given = is_array($about) && is_string($about['name'] ?? null) ? trim(mb_scrub($about['name'])) : '';
            $needed = self::needed($document);
            $found = self::unpacked($zip, $folder, $needed);
            foreach ($needed as $sha => $uses) {
                if (! isset($found[$sha]) && ($this->assets->path($sha) === null || ! People::seesAsset($sha))) {
                    throw self::refused('The package lacks a file that the shot needs (' . implode(', ', [...$uses, 'SHA-256 ' . substr($sha, 0, 12) . '…']) . '). Put that into the ZIP.');
                }
                foreach (isset($found[$sha]) ? ($uses ?: [Brought::as($found[$sha])]) : [] as $as) {
                    Brought::read($as, "{$folder}/{$sha}", $found[$sha]);
                }
            }
            foreach ($found as $sha => $name) {
                (new Brought($this->assets))->keep("{$folder}/{$sha}", $name);
            }

            $bake = $frames === null ? null : $this->taken($frames, ShotDocument::read($document));
            $shot = $book->create(mb_substr($given === '' ? $otherwise : $given, 0, 80), $document, 'Opened from a package');
            if ($bake !== null && $shot->head !== null) {
                $shot->bakes()->save($bake->fill(['revision_id' => $shot->head->id]));
            }

            return $shot;
        } finally {
            array_map(unlink(...), glob("{$folder}/*") ?: []);
            rmdir($folder);
            $zip->close();
        }
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<string, list<string>> files that a document names, by SHA-256, and what they must be; what is named elsewhere than as a prop's source may be anything
     */
    private static function needed(array $document): array
    {
        $needed = [];
        foreach (ShotDocument::read($document)->props as $prop) {
            $upload = $prop->source->trait('upload');
            $sha = is_string($upload) && $prop->source->settings->has('asset') ? $prop->source->settings->string('asset') : '';
            if ($sha !== '') {
                $needed[$sha] = array_values(array_unique([...$needed[$sha] ?? [], (string) $upload]));
            }
        }
        preg_match_all('/"([0-9a-f]{64})"/', self::json($document), $named);

        return $needed + array_fill_keys($named[1], []);
    }

    /** @return string the folder in the ZIP in which the document lies, with its slash: who packs it anew may have packed a folder */
    private static function documentIn(ZipArchive $zip): string
    {
        for ($k = 0; $k < $zip->numFiles; $k++) {
            $name = (string) $zip->getNameIndex($k);
            if (basename($name) === self::DOCUMENT && substr_count($name, '/') <= 1) {
                return substr($name, 0, -strlen(self::DOCUMENT));
            }
        }
        throw self::refused('There is no “' . self::DOCUMENT . '” in the file: it is no package of a shot.');
    }

    /** @return string|null where the frames of a bake lie now, whole; null: there are none in it */
    private static function framesIn(ZipArchive $zip, string $name, string $folder): ?string
    {
        $from = @$zip->getStream($name);
        if ($from === false) {
            return null;
        }
        self::pour($from, "{$folder}/frames", self::FRAMES, self::MOST['file']);
        try {
            $bake = BakeReader::open("{$folder}/frames");
            if ($bake->frames() < $bake->manifest->frames) {
                throw self::noBake();
            }
        } catch (BadBake) {
            throw self::noBake();
        }

        return "{$folder}/frames";
    }

    private static function noBake(): Problem
    {
        return self::refused('The bake in the package is damaged, or not all of it: save the package again from the other machine, or take “' . self::FRAMES . '” out, and bake it here.');
    }

    /** @return Bake|null the frames in the store, if they are what this version computes of the document; of no shot yet. What is left there without one is tidied. */
    private function taken(string $frames, ShotDocument $document): ?Bake
    {
        $reader = BakeReader::open($frames);
        $manifest = $reader->manifest;
        if ($manifest->hash !== $this->pipeline->motionHash($document)) {
            return null;
        }
        $now = microtime(true);
        $bake = new Bake(['motion_hash' => $manifest->hash, 'status' => 'done', 'frames' => $manifest->frames, 'frames_done' => $manifest->frames, 'pieces' => $manifest->pieces(), 'kept' => $manifest->frames, 'started_at' => $now, 'finished_at' => $now]);
        $bake->id = $bake->newUniqueId();
        $to = $bake->framesPath();
        $index = $reader->index();
        if ((! is_dir(dirname($to)) && ! @mkdir(dirname($to), 0o775, true)) || ! @rename($frames, $to) || @file_put_contents(BakeReader::indexOf($to), $index) !== strlen($index)) {
            @unlink($to);
            @unlink(BakeReader::indexOf($to));
            throw StoreFull::whileKeeping('The bake of the package');
        }

        return $bake;
    }

    private static function text(ZipArchive $zip, string $name): string
    {
        $text = @$zip->getFromName($name, self::MOST['document'] + 1);
        if ($text === false || strlen($text) > self::MOST['document']) {
            throw self::refused("“{$name}” in the package cannot be read, or is far too large.");
        }

        return $text;
    }

    /**
     * @param array<string, mixed> $needed by SHA-256
     *
     * @return array<string, string> names of those that are in it, which now lie in the folder, by SHA-256
     */
    private static function unpacked(ZipArchive $zip, string $folder, array $needed): array
    {
        $found = [];
        $all = 0;
        for ($k = 0; $k < $zip->numFiles && count($found) < count($needed); $k++) {
            $name = (string) $zip->getNameIndex($k);
            $from = str_ends_with($name, '/') || basename($name) === self::FRAMES ? false : @$zip->getStreamIndex($k);
            if ($from === false) {
                continue;
            }
            $all += self::pour($from, "{$folder}/part", Brought::name($name), min(self::MOST['file'], self::MOST['all'] - $all));
            $sha = (string) hash_file('sha256', "{$folder}/part");
            if (isset($needed[$sha])) {
                rename("{$folder}/part", "{$folder}/{$sha}");
                $found[$sha] = Brought::name($name);
            }
        }

        return $found;
    }

    /**
     * Reads what is packed into a file.
     *
     * @param resource $from closed then
     * @param string $name as it is called to whoever packed it
     *
     * @return int how many bytes there were
     */
    private static function pour($from, string $path, string $name, int $most): int
    {
        $to = fopen($path, 'wb') ?: throw StoreFull::whileKeeping('The package');
        $size = 0;
        while (! feof($from)) {
            $bytes = @fread($from, self::READ);
            if ($bytes === false) {
                throw self::refused("“{$name}” in the package is damaged: save the package again from the other machine.");
            }
            $size += strlen($bytes);
            if ($size > $most) {
                throw self::refused("“{$name}” in the package is too large: a file may have 256 MB, all together 1 GB.");
            }
            if (fwrite($to, $bytes) !== strlen($bytes)) {
                throw StoreFull::whileKeeping('The package');
            }
        }
        fclose($from);
        fclose($to);

        return $size;
    }

    private static function called(string $sha): string
    {
        $name = Asset::find($sha)?->name;

        return is_string($name) && $name !== '' ? str_replace(['/', '\\'], '-', $name) : $sha;
    }

    /** @param array<mixed> $value */
    private static function json(array $value): string
    {
        return (string) json_encode($value, JSON_PRETTY_PRINT | JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION);
    }

    private static function refused(string $why): Problem
    {
        return new Problem(422, 'The package cannot be opened', $why);
    }
}
