<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Database\Eloquent\ModelNotFoundException;
use Illuminate\Http\JsonResponse;
use Illuminate\Validation\ValidationException;
use RuntimeException;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;
use Throwable;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Refusal;

/** An answer that says what went wrong: application/problem+json (RFC 9457). */
final class Problem extends RuntimeException
{
    /** @param array<string, mixed> $more */
    public function __construct(
        private readonly int $status,
        private readonly string $title,
        string $detail,
        private readonly array $more = [],
    ) {
        parent::__construct($detail);
    }

    public static function from(Throwable $error): JsonResponse
    {
        [$status, $title, $detail, $more] = match (true) {
            $error instanceof self => [$error->status, $error->title, $error->getMessage(), $error->more],
            $error instanceof BadDocument => [422, 'The document is not valid', $error->errors[0]['detail'] ?? '', ['errors' => $error->errors]],
            $error instanceof BadFile => [422, 'The file cannot be read', $error->getMessage(), []],
            $error instanceof BreakFailed => [422, 'The prop cannot be broken this way', $error->getMessage(), []],
            $error instanceof Busy => [503, 'One moment', $error->getMessage(), []],
            $error instanceof StoreFull => [507, 'The store is full', $error->getMessage(), []],
            StoreFull::isBehind($error) => [507, 'The store is full', StoreFull::whileKeeping('It')->getMessage(), []],
            $error instanceof Refusal => [422, 'This cannot be done', $error->getMessage(), []],
            $error instanceof ValidationException => [422, 'The request is not valid', $error->getMessage(), [
                'errors' => array_map(
                    static fn (string $field, array $messages): array => ['pointer' => "/{$field}", 'detail' => is_string($messages[0] ?? null) ? $messages[0] : ''],
                    array_keys($error->errors()),
                    array_values($error->errors()),
                ),
            ]],
            $error instanceof ModelNotFoundException, $error instanceof NotFoundHttpException => [404, 'Not found', 'There is nothing here; it may have been deleted.', []],
            $error instanceof HttpExceptionInterface && $error->getStatusCode() === 419 => [419, 'Reload the page', 'You have signed in anew since this page was opened. Reload it and make the change again; nothing stored was lost.', []],
            $error instanceof HttpExceptionInterface => [$error->getStatusCode(), 'The request cannot be answered', $error->getMessage(), []],
            default => [500, 'Something broke on our side', 'Nothing was changed. The newest log in storage/logs says more.', []],
        };

        return new JsonResponse(
            ['type' => 'about:blank', 'title' => $title, 'status' => $status, 'detail' => $detail] + $more,
            $status,
            ['Content-Type' => 'application/problem+json', ...$error instanceof Busy ? ['Retry-After' => (string) Busy::AGAIN] : []],
        );
    }
}
