<?php

declare(strict_types=1);

/*
 * What PHP's own web server runs for each request, in the folder public: built files as they are, with the headers that every
 * answer has, everything else by the application. Behind a web server that serves public itself, it is not used.
 */

const TYPES = ['js' => 'text/javascript', 'css' => 'text/css', 'woff2' => 'font/woff2', 'woff' => 'font/woff', 'svg' => 'image/svg+xml', 'png' => 'image/png', 'json' => 'application/json'];

(static function (): void {
    $public = (string) getcwd();
    $asked = parse_url(is_string($_SERVER['REQUEST_URI'] ?? null) ? $_SERVER['REQUEST_URI'] : '/', PHP_URL_PATH);
    $file = realpath($public . '/' . ltrim(rawurldecode(is_string($asked) ? $asked : '/'), '/'));
    $type = $file === false ? null : TYPES[pathinfo($file, PATHINFO_EXTENSION)] ?? null;
    header_remove('X-Powered-By');
    if ($file === false || $type === null || ! is_file($file) || ! str_starts_with($file, "{$public}/build/")) {
        require "{$public}/index.php";

        return;
    }
    require_once "{$public}/../app/Support/Shield.php";
    $host = is_string($_SERVER['HTTP_HOST'] ?? null) ? $_SERVER['HTTP_HOST'] : '';
    // The names that config/yard.php reads, which is not there for files.
    $names = array_values(array_filter(array_map(trim(...), explode(',', (string) getenv('YARD_HOSTS')))));
    if (! App\Support\Shield::isOurs($host, $names)) {
        http_response_code(403);

        return;
    }
    foreach (App\Support\Shield::HEADERS as $name => $value) {
        header("{$name}: {$value}");
    }
    header("Content-Type: {$type}");
    header('Content-Length: ' . filesize($file));
    // Their names change with what is in them.
    header('Cache-Control: public, max-age=31536000, immutable');
    readfile($file);
})();
