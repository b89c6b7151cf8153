<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** A bake that is to be kept, whatever comes after it. */
return new class () extends Migration {
    public function up(): void
    {
        Schema::table('bakes', function (Blueprint $table): void {
            $table->boolean('pinned')->default(false);
        });
    }

    public function down(): void
    {
        Schema::table('bakes', function (Blueprint $table): void {
            $table->dropColumn('pinned');
        });
    }
};
