<!DOCTYPE html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>Yard Break</title>
    <link rel="icon" href="data:image/svg+xml,%3Csvg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 16 16'%3E%3Cpath d='M1 13 6 3l3 6 2-3 4 7z' fill='%230B6663'/%3E%3C/svg%3E">
    @viteReactRefresh
    @vite('resources/ts/main.tsx')
</head>
<body><div id="root"></div></body>
</html>
