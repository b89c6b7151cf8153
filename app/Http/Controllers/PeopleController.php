<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Person;
use App\Models\Shot;
use App\Support\People;
use App\Support\Problem;
use App\Support\ShotView;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Who one is, and with whom a shot is shared. */
final class PeopleController
{
    public function me(): JsonResponse
    {
        return new JsonResponse([
            'name' => People::me()?->name,
            'people' => People::signIn() ? Person::query()->orderBy('name')->pluck('name')->all() : [],
        ]);
    }

    public function share(Request $request, Shot $shot, ShotView $view): JsonResponse
    {
        if (! People::signIn() || $shot->owner_id === null) {
            throw new Problem(409, 'Everybody has it', 'This shot has no owner: everybody can open it. A copy of it is yours, and can be shared.');
        }
        if (! People::owns($shot)) {
            throw new Problem(403, 'Not your shot', 'Only its owner can share a shot.');
        }
        $names = $request->json('people');
        $people = Person::query()->whereIn('name', is_array($names) ? array_filter($names, is_string(...)) : [])->where('id', '<>', $shot->owner_id)->get();
        if (! is_array($names) || $people->count() !== count(array_unique($names))) {
            throw new Problem(422, 'Not with these', 'Some of the names are unknown. Reload, and choose again.');
        }
        $shot->people()->sync($people->pluck('id')->all());

        return new JsonResponse($view->card($shot->refresh()));
    }
}
