<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Http\Request;

/** The revision that a change is based on, from the header If-Match. */
final class BasedOn
{
    /** @throws Problem 428 if it is not said */
    public static function of(Request $request): string
    {
        $match = $request->headers->get('If-Match') ?? throw new Problem(428, 'Say what you changed', 'Send the revision that the change is based on in If-Match.');

        return trim($match, '"');
    }
}
