// All Voronoi cells of sites in the unit box by voro++ (Rycroft 2009), with their vertices and faces, as our own builder
// makes them: seconds of the median run. Input: count, then x y z a line. Usage: voro RUNS < sites
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <vector>
#include <voro++/voro++.hh>

int main(int argc, char **argv) {
    int n, runs = argc > 1 ? std::atoi(argv[1]) : 5;
    if (std::scanf("%d", &n) != 1) return 1;
    std::vector<double> s(3 * n), times;
    for (double &v : s) if (std::scanf("%lf", &v) != 1) return 1;
    int blocks = std::max(1, (int) std::ceil(std::cbrt(n / 5.6)));
    for (int r = 0; r < runs; r++) {
        auto begin = std::chrono::steady_clock::now();
        voro::container box(0, 1, 0, 1, 0, 1, blocks, blocks, blocks, false, false, false, 8);
        for (int i = 0; i < n; i++) box.put(i, s[3 * i], s[3 * i + 1], s[3 * i + 2]);
        voro::voronoicell_neighbor cell;
        voro::c_loop_all loop(box);
        std::vector<double> vertices;
        std::vector<int> faces;
        if (loop.start()) do if (box.compute_cell(cell, loop)) {
            double x, y, z;
            loop.pos(x, y, z);
            cell.vertices(x, y, z, vertices);
            cell.face_vertices(faces);
        } while (loop.inc());
        times.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count());
    }
    std::sort(times.begin(), times.end());
    std::printf("%.6f\n", times[times.size() / 2]);
}
