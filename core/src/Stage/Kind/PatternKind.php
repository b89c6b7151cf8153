<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\Copies;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\SkinPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Stage\PatternBench;

/** A way for a prop to come apart, made from its settings. What is made holds what matters to it and nothing else. */
interface PatternKind
{
    /**
     * @return Pattern|SkinPattern|Copies|null null: the prop stays whole
     *
     * @throws BadFile if a picture is missing
     * @throws BreakFailed if something has not been drawn yet
     */
    public static function make(Settings $settings, PatternBench $bench): Pattern|SkinPattern|Copies|null;
}
