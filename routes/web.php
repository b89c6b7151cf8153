<?php

declare(strict_types=1);

use App\Http\Controllers\SignInController;
use App\Http\Middleware\SignedIn;
use Illuminate\Support\Facades\Route;

Route::get('/' . SignedIn::DOOR, [SignInController::class, 'show']);
Route::post('/' . SignedIn::DOOR, [SignInController::class, 'store']);
Route::view('/{any?}', 'app')->where('any', '(?!api/).*');
