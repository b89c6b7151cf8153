<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** How many workers in a row a bake has lost, and after which frame. */
return new class () extends Migration {
    public function up(): void
    {
        Schema::table('bakes', function (Blueprint $table): void {
            $table->integer('lost')->default(0);
            $table->integer('lost_at')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('bakes', function (Blueprint $table): void {
            $table->dropColumn(['lost', 'lost_at']);
        });
    }
};
