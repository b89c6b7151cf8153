<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Illuminate\Console\Command;
use JsonException;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Refusal;

/** Headless work: JSON on standard output, progress on standard error, one clear message and a non-zero exit on bad input. */
abstract class ComputeCommand extends Command
{
    public const BAD_INPUT = 2;

    /** @return array<string, mixed> what goes to standard output */
    abstract protected function compute(): array;

    public function handle(): int
    {
        try {
            $this->line((string) json_encode($this->compute(), JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR));

            return self::SUCCESS;
        } catch (Refusal | JsonException $error) {
            $this->say($error->getMessage());

            return self::BAD_INPUT;
        }
    }

    protected function say(string $text): void
    {
        $output = $this->output->getOutput();
        ($output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output)->writeln($text);
    }

    protected function text(string $option): string
    {
        $value = $this->hasArgument($option) ? $this->argument($option) : $this->option($option);

        return is_string($value) ? $value : '';
    }

    /** @return array<mixed> */
    protected static function jsonFile(string $path): array
    {
        $bytes = @file_get_contents($path);
        if ($bytes === false) {
            throw new BadFile("“{$path}” cannot be opened. Check the path and its permissions.");
        }
        $value = json_decode($bytes, true, 64);
        if (! is_array($value)) {
            throw new BadFile("“{$path}” is not JSON: " . json_last_error_msg() . '.');
        }

        return $value;
    }

    protected static function folder(string $path): string
    {
        if (! is_dir($path) && ! @mkdir($path, 0o775, true) && ! is_dir($path)) {
            throw new BadFile("The folder “{$path}” cannot be created.");
        }

        return rtrim($path, '/');
    }

    protected static function write(string $path, string $bytes): void
    {
        if (@file_put_contents($path, $bytes) !== strlen($bytes)) {
            throw new BadFile("“{$path}” cannot be written.");
        }
    }
}
