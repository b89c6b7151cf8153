<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** How many frames of a bake were taken over from before. */
return new class () extends Migration {
    public function up(): void
    {
        Schema::table('bakes', fn (Blueprint $table) => $table->unsignedInteger('kept')->default(0));
    }

    public function down(): void
    {
        Schema::table('bakes', fn (Blueprint $table) => $table->dropColumn('kept'));
    }
};
