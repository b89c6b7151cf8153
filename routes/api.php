<?php

declare(strict_types=1);

use App\Http\Controllers\AssetController;
use App\Http\Controllers\BakeController;
use App\Http\Controllers\ExportController;
use App\Http\Controllers\FileMotionController;
use App\Http\Controllers\ForceController;
use App\Http\Controllers\JointController;
use App\Http\Controllers\PackageController;
use App\Http\Controllers\PeopleController;
use App\Http\Controllers\PropController;
use App\Http\Controllers\ShotController;
use App\Http\Controllers\SignInController;
use App\Http\Controllers\StoreController;
use App\Http\Controllers\TrialController;
use Illuminate\Support\Facades\Route;

Route::get('schema', [ShotController::class, 'schema']);
Route::get('me', [PeopleController::class, 'me']);
Route::post('sign-out', [SignInController::class, 'destroy']);
Route::put('shots/{shot}/people', [PeopleController::class, 'share']);
Route::get('shots', [ShotController::class, 'index']);
Route::post('shots', [ShotController::class, 'store']);
Route::get('shots/{shot}', [ShotController::class, 'show']);
Route::patch('shots/{shot}', [ShotController::class, 'rename']);
Route::delete('shots/{shot}', [ShotController::class, 'destroy']);
Route::post('shots/{id}/restore', [ShotController::class, 'restore']);
Route::post('shots/{shot}/duplicate', [ShotController::class, 'duplicate']);
Route::put('shots/{shot}/document', [ShotController::class, 'save']);
Route::post('shots/{shot}/undo', [ShotController::class, 'undo']);
Route::post('shots/{shot}/redo', [ShotController::class, 'redo']);
Route::get('shots/{shot}/picture', [ShotController::class, 'picture']);
Route::put('shots/{shot}/picture', [ShotController::class, 'storePicture']);
Route::get('shots/{shot}/tracks', [ShotController::class, 'tracks']);
Route::get('shots/{shot}/paths', [ShotController::class, 'paths']);
Route::get('shots/{shot}/numbers', [ShotController::class, 'numbers']);
Route::get('shots/{shot}/checks', [ShotController::class, 'checks']);

Route::get('shots/{shot}/progress', [PropController::class, 'progress']);
Route::post('shots/{shot}/progress/stop', [PropController::class, 'stop']);
Route::get('shots/{shot}/props/{prop}/mesh', [PropController::class, 'mesh']);
Route::get('shots/{shot}/props/{prop}/readout', [PropController::class, 'readout']);
Route::get('shots/{shot}/props/{prop}/weights', [PropController::class, 'weights']);
Route::post('shots/{shot}/props/{prop}/weights', [PropController::class, 'draft']);
Route::get('shots/{shot}/props/{prop}/outlines', [PropController::class, 'outlines']);
Route::get('shots/{shot}/props/{prop}/releases', [PropController::class, 'releases']);
Route::get('shots/{shot}/props/{prop}/face', [PropController::class, 'face']);
Route::get('shots/{shot}/props/{prop}/starter', [PropController::class, 'starter']);
Route::get('shots/{shot}/props/{prop}/motion', [FileMotionController::class, 'prop']);

Route::get('shots/{shot}/forces/{force}/field', [ForceController::class, 'field']);
Route::get('shots/{shot}/forces/{force}/probe', [ForceController::class, 'probe']);

Route::get('shots/{shot}/joints/{joint}/places', [JointController::class, 'places']);

Route::get('shots/{shot}/package', [PackageController::class, 'show']);
Route::post('packages', [PackageController::class, 'store']);

Route::get('store', [StoreController::class, 'show']);
Route::post('store/empty', [StoreController::class, 'empty']);

Route::post('assets', [AssetController::class, 'store']);
Route::get('assets/{sha}', [AssetController::class, 'show'])->where('sha', '[0-9a-f]{64}');
Route::get('assets/{sha}/cameras/{node}', [FileMotionController::class, 'camera'])->where(['sha' => '[0-9a-f]{64}', 'node' => '[0-9]{1,9}']);

Route::post('shots/{shot}/bakes', [BakeController::class, 'store']);
Route::get('shots/{shot}/bakes', [BakeController::class, 'index']);
Route::post('shots/{shot}/trials', [TrialController::class, 'store']);
Route::delete('shots/{shot}/trials', [TrialController::class, 'destroy']);
Route::get('bakes/{bake}', [BakeController::class, 'show']);
Route::patch('bakes/{bake}', [BakeController::class, 'pin']);
Route::delete('bakes/{bake}', [BakeController::class, 'destroy']);
Route::get('bakes/{bake}/differences', [BakeController::class, 'differences']);
Route::post('bakes/{bake}/bring-up', [BakeController::class, 'bringUp']);
Route::post('bakes/{bake}/freeze', [BakeController::class, 'freeze']);
Route::post('bakes/{bake}/take', [TrialController::class, 'take']);
Route::post('bakes/{bake}/go-back', [BakeController::class, 'goBack']);
Route::post('bakes/{bake}/cancel', [BakeController::class, 'cancel']);
Route::get('bakes/{bake}/frames', [BakeController::class, 'frames']);
Route::get('bakes/{bake}/index', [BakeController::class, 'places']);
Route::post('bakes/{bake}/exports', [ExportController::class, 'store']);
Route::get('exports/{export}', [ExportController::class, 'show']);
Route::get('exports/{export}/file', [ExportController::class, 'file']);
Route::post('exports/{export}/cancel', [ExportController::class, 'cancel']);
Route::get('bakes/{bake}/pieces.{format}', [BakeController::class, 'export'])->where('format', '[a-z.]+');
