<?php

/**
 * A stand-in for a store of objects, for tests: as much of S3's REST interface as the framework's disk asks for, each object a
 * file. Usage: OBJECTS=FOLDER php -S ADDRESS object-store.php
 */

declare(strict_types=1);

$folder = (string) getenv('OBJECTS');
$path = rawurldecode((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH));
[, $bucket, $key] = [...explode('/', $path, 3), '', ''];
$file = "{$folder}/" . bin2hex($key);
// The real one says no without a signature; whether it is right it alone can tell.
if (! str_starts_with((string) ($_SERVER['HTTP_AUTHORIZATION'] ?? ''), 'AWS4-HMAC-SHA256') || $bucket !== 'yard') {
    http_response_code(403);
    exit;
}
$text = static fn (string $value): string => htmlspecialchars($value, ENT_XML1);
switch ($_SERVER['REQUEST_METHOD']) {
    case 'PUT':
        // Whole or not at all.
        file_put_contents("{$file}.part" . getmypid(), file_get_contents('php://input'));
        rename("{$file}.part" . getmypid(), $file);
        break;
    case 'DELETE':
        @unlink($file);
        http_response_code(204);
        break;
    case 'POST':
        // Several at once.
        preg_match_all('#<Key>([^<]*)</Key>#', (string) file_get_contents('php://input'), $keys);
        foreach ($keys[1] as $name) {
            @unlink("{$folder}/" . bin2hex(html_entity_decode($name)));
        }
        header('Content-Type: application/xml');
        echo '<?xml version="1.0"?><DeleteResult/>';
        break;
    default:
        if ($key === '') {
            $prefix = (string) ($_GET['prefix'] ?? '');
            header('Content-Type: application/xml');
            echo "<?xml version=\"1.0\"?><ListBucketResult><Name>yard</Name><Prefix>{$text($prefix)}</Prefix><IsTruncated>false</IsTruncated>";
            foreach (glob("{$folder}/*") ?: [] as $each) {
                $name = (string) hex2bin(basename($each));
                if (str_starts_with($name, $prefix)) {
                    echo "<Contents><Key>{$text($name)}</Key><Size>" . filesize($each) . '</Size><LastModified>2026-01-01T00:00:00Z</LastModified></Contents>';
                }
            }
            echo '</ListBucketResult>';
        } elseif (! is_file($file)) {
            http_response_code(404);
            header('Content-Type: application/xml');
            echo $_SERVER['REQUEST_METHOD'] === 'HEAD' ? '' : '<?xml version="1.0"?><Error><Code>NoSuchKey</Code></Error>';
        } else {
            header('Content-Length: ' . filesize($file));
            header('Last-Modified: ' . gmdate('D, d M Y H:i:s', (int) filemtime($file)) . ' GMT');
            if ($_SERVER['REQUEST_METHOD'] !== 'HEAD') {
                readfile($file);
            }
        }
}
