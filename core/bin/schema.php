<?php

/** Prints the whole schema of a shot document as JSON: what the interface and the reference page are made from. */

declare(strict_types=1);

use YardBreak\Core\Document\SchemaBundle;

require __DIR__ . '/../../vendor/autoload.php';
echo SchemaBundle::json(SchemaBundle::of());
