<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use DOMDocument;
use DOMElement;
use DOMXPath;
use YardBreak\Core\Format\BadFile;

/**
 * Filled shapes of an SVG file (SVG 2): paths and basic shapes, groups, transforms, fills, symbols used within the file. Text,
 * pictures, clips and strokes are no filled shapes; scripts, links and anything from outside are never followed.
 */
final class SvgReader
{
    private const BYTES = 8 * 1024 * 1024;

    private const DEPTH = 60;

    private const POINTS = 100_000;

    /** Curves stray by at most this part of the drawing's size. */
    private const STRAY = 1.0 / 4000.0;

    /** Elements that hold what is drawn only where it is used, or nothing that is filled. */
    private const HOLDERS = ['defs', 'symbol', 'clipPath', 'mask', 'pattern', 'marker', 'linearGradient', 'radialGradient', 'filter', 'style', 'script', 'title', 'desc', 'metadata', 'foreignObject', 'image'];

    private const COLOURS = [
        'black' => '#000000', 'white' => '#ffffff', 'gray' => '#808080', 'grey' => '#808080', 'silver' => '#c0c0c0', 'red' => '#ff0000', 'maroon' => '#800000',
        'green' => '#008000', 'lime' => '#00ff00', 'blue' => '#0000ff', 'navy' => '#000080', 'yellow' => '#ffff00', 'orange' => '#ffa500', 'teal' => '#008080',
        'aqua' => '#00ffff', 'fuchsia' => '#ff00ff', 'purple' => '#800080', 'olive' => '#808000', 'brown' => '#a52a2a', 'gold' => '#ffd700', 'beige' => '#f5f5dc', 'tan' => '#d2b48c',
    ];

    /** @var list<Shape> */
    private array $shapes = [];

    /** @var array<string, DOMElement> */
    private array $byId = [];

    /** @var list<array{string, array<string, string>}> selectors of style sheets in the file, and what they set */
    private array $rules = [];

    /** @var array<string, array<int, array<string, string>>> what each selector sets, by the rule's number in that list */
    private array $bySelector = [];

    private int $points = 0;

    private int $texts = 0;

    private float $stray = 0.1;

    /** @throws BadFile */
    public static function read(string $bytes): Artwork
    {
        return (new self())->file($bytes);
    }

    private function file(string $bytes): Artwork
    {
        if (strlen($bytes) > self::BYTES) {
            throw new BadFile('The drawing is larger than 8 MB. Simplify it first.');
        }
        $bytes = self::asUtf8($bytes);
        if (preg_match('/<!(DOCTYPE[^>]*\[|ENTITY)/i', $bytes) === 1) {
            throw new BadFile('The drawing defines entities of its own, which is not allowed here. Save it as plain SVG.');
        }
        if (trim($bytes) === '') {
            throw new BadFile('The file is empty: no SVG drawing.');
        }
        $document = new DOMDocument();
        $quiet = libxml_use_internal_errors(true);
        $loaded = $document->loadXML($bytes, LIBXML_NONET | LIBXML_COMPACT);
        $error = libxml_get_last_error();
        libxml_clear_errors();
        libxml_use_internal_errors($quiet);
        $root = $document->documentElement;
        if (! $loaded || $root === null) {
            throw $error === false ? new BadFile('The file is no SVG drawing.') : BadFile::atLine($error->line, 'this is no SVG drawing, or one that is broken off: ' . trim($error->message));
        }
        if ($root->localName !== 'svg') {
            throw new BadFile('The file is XML, but no SVG drawing.');
        }
        $box = array_map(floatval(...), preg_split('/[\s,]+/', trim($root->getAttribute('viewBox')), -1, PREG_SPLIT_NO_EMPTY) ?: []);
        $size = max($box[2] ?? 0.0, $box[3] ?? 0.0, (float) $root->getAttribute('width'), (float) $root->getAttribute('height'));
        $this->stray = self::STRAY * ($size > 0.0 ? $size : 1000.0);
        // A list of its own: the document's own lists are counted through from the start at each step.
        foreach ((new DOMXPath($document))->query('//*') ?: [] as $element) {
            if (! $element instanceof DOMElement) {
                continue;
            }
            if ($element->getAttribute('id') !== '') {
                $this->byId[$element->getAttribute('id')] = $element;
            }
            if ($element->localName === 'style') {
                $this->styleSheet($element->textContent);
            }
        }
        foreach ($this->rules as $order => [$selector, $set]) {
            $this->bySelector[$selector][$order] = $set;
        }
        // y goes up here.
        $this->children($root, new Affine(d: -1.0), ['fill' => 'black', 'fill-rule' => 'nonzero'], 0);
        if ($this->shapes === []) {
            throw new BadFile($this->texts > 0
                ? 'The drawing holds text only. Convert the text to paths in your drawing program, then bring it in again.'
                : 'The drawing holds no filled shape. Strokes are not read: turn them into outlines first.');
        }

        return new Artwork($this->shapes);
    }

    /**
     * The text in one encoding, whatever it was saved in: what is looked for below must not hide in another.
     *
     * @throws BadFile
     */
    private static function asUtf8(string $bytes): string
    {
        $from = match (true) {
            str_starts_with($bytes, "\xFF\xFE\0\0"), str_starts_with($bytes, "<\0\0\0") => 'UTF-32LE',
            str_starts_with($bytes, "\0\0\xFE\xFF"), str_starts_with($bytes, "\0\0\0<") => 'UTF-32BE',
            str_starts_with($bytes, "\xFF\xFE"), str_starts_with($bytes, "<\0") => 'UTF-16LE',
            str_starts_with($bytes, "\xFE\xFF"), str_starts_with($bytes, "\0<") => 'UTF-16BE',
            default => null,
        };
        if ($from !== null) {
            $bytes = (string) preg_replace('/^\x{FEFF}/u', '', mb_convert_encoding($bytes, 'UTF-8', $from));

            return (string) preg_replace('/^(<\?xml[^>]*?)\sencoding\s*=\s*["\'][^"\']*["\']/', '$1', $bytes);
        }
        $declared = preg_match('/^(?:\xEF\xBB\xBF)?\s*<\?xml[^>]*?\sencoding\s*=\s*["\']([^"\']*)["\']/', $bytes, $m) === 1 ? strtolower($m[1]) : 'utf-8';
        if (str_contains($bytes, "\0") || preg_match('/^(utf-8|us-ascii|ascii|iso-8859-\d+|windows-125\d)$/', $declared) !== 1) {
            throw new BadFile('The drawing is saved in an encoding that is not read here. Save it as UTF-8.');
        }

        return $bytes;
    }

    private function styleSheet(string $css): void
    {
        $css = preg_replace('#/\*.*?\*/#s', '', $css) ?? '';
        if (preg_match_all('/([^{}]+)\{([^{}]*)\}/', $css, $blocks, PREG_SET_ORDER) === false) {
            return;
        }
        foreach ($blocks as [, $selectors, $body]) {
            foreach (explode(',', $selectors) as $selector) {
                $this->rules[] = [trim($selector), self::declarations($body)];
            }
        }
        // What is said of an id outweighs what is said of a class, and that what is said of a kind of element (CSS cascade).
        usort($this->rules, static fn (array $a, array $b): int => self::weight($a[0]) <=> self::weight($b[0]));
    }

    private static function weight(string $selector): int
    {
        return str_starts_with($selector, '#') ? 2 : (str_starts_with($selector, '.') ? 1 : 0);
    }

    /** @return array<string, string> */
    private static function declarations(string $text): array
    {
        $set = [];
        foreach (explode(';', $text) as $part) {
            [$name, $value] = [...explode(':', $part, 2), ''];
            if (trim($name) !== '') {
                $set[strtolower(trim($name))] = trim(str_replace('!important', '', $value));
            }
        }

        return $set;
    }

    /** @param array<string, string> $style */
    private function children(DOMElement $parent, Affine $map, array $style, int $depth): void
    {
        if ($depth > self::DEPTH) {
            throw new BadFile('The drawing is nested too deeply, or uses itself.');
        }
        foreach ($parent->childNodes as $node) {
            if ($node instanceof DOMElement) {
                $this->element($node, $map, $style, $depth);
            }
        }
    }

    /** @param array<string, string> $style */
    private function element(DOMElement $e, Affine $map, array $style, int $depth): void
    {
        $name = (string) $e->localName;
        $style = $this->styled($e, $style);
        if (in_array($name, self::HOLDERS, true) || ($style['display'] ?? '') === 'none') {
            return;
        }
        unset($style['display']);
        $map = $map->after(Affine::read($e->getAttribute('transform')));
        $n = static fn (string $attribute): float => (float) $e->getAttribute($attribute);
        switch ($name) {
            case 'g':
            case 'a':
            case 'svg':
            case 'switch':
                $this->children($e, $name === 'svg' ? $map->after(new Affine(e: $n('x'), f: $n('y'))) : $map, $style, $depth + 1);
                break;
            case 'use':
                $link = $e->getAttribute('href') !== '' ? $e->getAttribute('href') : $e->getAttributeNS('http://www.w3.org/1999/xlink', 'href');
                $target = str_starts_with($link, '#') ? ($this->byId[substr($link, 1)] ?? null) : null;
                if ($target !== null) {
                    $moved = $map->after(new Affine(e: $n('x'), f: $n('y')));
                    if ($target->localName === 'symbol') {
                        $this->children($target, $moved, $this->styled($target, $style), $depth + 1);
                    } elseif ($depth < self::DEPTH) {
                        $this->element($target, $moved, $style, $depth + 1);
                    } else {
                        throw new BadFile('The drawing uses itself.');
                    }
                }
                break;
            case 'text':
                $this->texts++;
                break;
            default:
                $data = self::pathOf($e, $name, $n);
                if ($data !== '') {
                    $this->shape($data, $map, $style);
                }
        }
    }

    /**
     * Basic shapes as path data.
     *
     * @param callable(string): float $n
     */
    private static function pathOf(DOMElement $e, string $name, callable $n): string
    {
        switch ($name) {
            case 'path':
                return $e->getAttribute('d');
            case 'polygon':
            case 'polyline':
                return trim($e->getAttribute('points')) === '' ? '' : 'M' . $e->getAttribute('points') . 'Z';
            case 'rect':
                [$x, $y, $w, $h] = [$n('x'), $n('y'), $n('width'), $n('height')];
                $rx = min(0.5 * $w, $e->getAttribute('rx') === '' ? $n('ry') : $n('rx'));
                $ry = min(0.5 * $h, $e->getAttribute('ry') === '' ? $n('rx') : $n('ry'));
                if ($w <= 0.0 || $h <= 0.0) {
                    return '';
                }

                return $rx > 0.0 && $ry > 0.0
                    ? sprintf('M%1$F %2$Fh%3$Fa%4$F %5$F 0 0 1 %4$F %5$Fv%6$Fa%4$F %5$F 0 0 1 %7$F %5$Fh%8$Fa%4$F %5$F 0 0 1 %7$F %9$Fv%10$Fa%4$F %5$F 0 0 1 %4$F %9$FZ', $x + $rx, $y, $w - 2.0 * $rx, $rx, $ry, $h - 2.0 * $ry, -$rx, 2.0 * $rx - $w, -$ry, 2.0 * $ry - $h)
                    : sprintf('M%F %Fh%Fv%Fh%FZ', $x, $y, $w, $h, -$w);
            case 'circle':
            case 'ellipse':
                $rx = $name === 'circle' ? $n('r') : $n('rx');
                $ry = $name === 'circle' ? $n('r') : $n('ry');

                return $rx <= 0.0 || $ry <= 0.0 ? '' : sprintf('M%1$F %2$Fa%3$F %4$F 0 1 0 %5$F 0a%3$F %4$F 0 1 0 %6$F 0Z', $n('cx') - $rx, $n('cy'), $rx, $ry, 2.0 * $rx, -2.0 * $rx);
            default:
                return '';
        }
    }

    /**
     * @param array<string, string> $style inherited
     *
     * @return array<string, string>
     */
    private function styled(DOMElement $e, array $style): array
    {
        unset($style['opacity']);
        foreach (['fill', 'fill-rule', 'fill-opacity', 'opacity', 'display', 'visibility'] as $name) {
            if ($e->getAttribute($name) !== '') {
                $style[$name] = $e->getAttribute($name);
            }
        }
        $classes = preg_split('/\s+/', $e->getAttribute('class'), -1, PREG_SPLIT_NO_EMPTY) ?: [];
        $rules = [];
        foreach (['*', (string) $e->localName, '#' . $e->getAttribute('id'), ...array_map(static fn (string $class): string => ".{$class}", $classes)] as $selector) {
            $rules += $this->bySelector[$selector] ?? [];
        }
        ksort($rules);
        foreach ($rules as $set) {
            $style = [...$style, ...$set];
        }

        return [...$style, ...self::declarations($e->getAttribute('style'))];
    }

    /** @param array<string, string> $style */
    private function shape(string $data, Affine $map, array $style): void
    {
        $clear = (float) ($style['fill-opacity'] ?? 1.0) <= 0.0 || (float) ($style['opacity'] ?? 1.0) <= 0.0 || ($style['visibility'] ?? '') === 'hidden';
        if (($style['fill'] ?? '') === 'none' || ($style['fill'] ?? '') === 'transparent' || $clear) {
            return;
        }
        $outlines = [];
        foreach (SvgPath::outlines($data, $this->stray / max(1e-9, $map->scale())) as $outline) {
            $placed = [];
            foreach ($outline as [$x, $y]) {
                [$x, $y] = $map->at($x, $y);
                if (! is_finite($x) || ! is_finite($y) || abs($x) > 1e9 || abs($y) > 1e9) {
                    throw new BadFile('The drawing has points that lie beyond all bounds.');
                }
                $placed[] = [$x, $y];
            }
            $this->points += count($placed);
            $outlines[] = $placed;
        }
        if ($this->points > self::POINTS) {
            throw new BadFile(sprintf('The drawing has more than %s points. Simplify its outlines first.', number_format(self::POINTS)));
        }
        if ($outlines !== []) {
            $this->shapes[] = new Shape($outlines, ($style['fill-rule'] ?? '') === 'evenodd', $this->colour($style['fill'] ?? 'black', $style['color'] ?? 'black'));
        }
    }

    private function colour(string $text, string $current, int $depth = 0): string
    {
        $text = strtolower(trim($text));
        if ($text === 'currentcolor' && $depth === 0) {
            return $this->colour($current, 'black', 1);
        }
        if (preg_match('/^#([0-9a-f]{6})/', $text, $m) === 1) {
            return "#{$m[1]}";
        }
        if (preg_match('/^#([0-9a-f])([0-9a-f])([0-9a-f])/', $text, $m) === 1) {
            return "#{$m[1]}{$m[1]}{$m[2]}{$m[2]}{$m[3]}{$m[3]}";
        }
        if (preg_match('/^rgba?\(\s*([\d.]+)(%?)[\s,]+([\d.]+)%?[\s,]+([\d.]+)/', $text, $m) === 1) {
            $s = $m[2] === '%' ? 2.55 : 1.0;

            return sprintf('#%02x%02x%02x', min(255, (int) round($s * (float) $m[1])), min(255, (int) round($s * (float) $m[3])), min(255, (int) round($s * (float) $m[4])));
        }
        // Of a gradient its first colour.
        if (preg_match('/^url\(["\']?#([^"\')]+)/', trim($text), $m) === 1 && $depth < 4) {
            foreach ($this->byId as $id => $element) {
                if (strtolower((string) $id) === $m[1]) {
                    foreach ($element->getElementsByTagName('stop') as $stop) {
                        return $this->colour($this->styled($stop, [])['stop-color'] ?? ($stop->getAttribute('stop-color') ?: 'grey'), $current, $depth + 1);
                    }
                }
            }

            return '#808080';
        }

        return self::COLOURS[$text] ?? '#000000';
    }
}
