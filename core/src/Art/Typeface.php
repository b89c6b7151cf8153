<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use FontLib\TrueType\File;

/** A font as it has been read. */
final readonly class Typeface
{
    /** @param PostScriptOutlines|null $programs null: its letters are TrueType outlines */
    public function __construct(public File $file, public CharacterMap $characters, public ?PostScriptOutlines $programs, public Kerning $kerning)
    {
    }
}
