<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Shot;
use App\Support\People;
use App\Support\Room;
use App\Support\ShotView;
use App\Support\StoreKeeper;
use Illuminate\Database\Eloquent\SoftDeletingScope;
use Illuminate\Http\JsonResponse;

/** What takes room in the store, and what of it can go. */
final class StoreController
{
    public function __construct(private readonly ShotView $view)
    {
    }

    public function show(): JsonResponse
    {
        $shots = [];
        /** @var Shot $shot */
        foreach (People::shots()->withoutGlobalScope(SoftDeletingScope::class)->whereHas('bakes')->orderByDesc('updated_at')->get() as $shot) {
            $shots[] = ['id' => $shot->id, 'name' => $shot->name, 'deleted' => $shot->trashed(), 'bakes' => $this->view->bakes($shot)];
        }

        return new JsonResponse([
            'parts' => StoreKeeper::ofTheYard()->usage(),
            'free' => Room::free(),
            'limits' => ['computed' => config()->integer('yard.room.computed'), 'bakes' => config()->integer('yard.room.bakes')],
            'shots' => $shots,
        ]);
    }

    public function empty(): JsonResponse
    {
        return new JsonResponse(['freed' => StoreKeeper::ofTheYard()->emptyComputed()]);
    }
}
