<?php

// Stand-ins for two functions of PHP 8.5 that Laravel 12 calls. See support/polyfill/README.md.

declare(strict_types=1);

if (! function_exists('array_first')) {
    /** @param array<mixed> $array */
    function array_first(array $array): mixed
    {
        foreach ($array as $value) {
            return $value;
        }

        return null;
    }
}

if (! function_exists('array_last')) {
    /** @param array<mixed> $array */
    function array_last(array $array): mixed
    {
        return $array === [] ? null : $array[array_key_last($array)];
    }
}
