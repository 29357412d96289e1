// The same loops as PlainArrays.java, in C++: reads its arrays from a file, counts as often as asked,
// and prints pairs, permissions and the seconds of each try.
#include <chrono>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <vector>

static FILE *in;

static uint32_t number() {
  uint32_t n;
  if (fread(&n, 4, 1, in) != 1) exit(3);
  return n;
}

template <class T> static std::vector<T> array(size_t length) {
  std::vector<T> a(length);
  if (fread(a.data(), sizeof(T), length, in) != length) exit(3);
  return a;
}

int main(int argc, char **argv) {
  in = fopen(argv[1], "rb");
  if (argc < 3 || !in) return 2;
  int tries = atoi(argv[2]);
  uint32_t accounts = number(), subjects = number(), cells = number();
  auto upStart = array<int32_t>(number());
  auto up = array<int32_t>(number());
  auto start = array<int32_t>(number());
  auto word = array<int32_t>(number());
  auto mask = array<uint64_t>(word.size());
  std::vector<uint32_t> stamp(subjects), queue(subjects), touched(cells);
  std::vector<uint64_t> bits(cells);
  for (int t = 0; t < tries; t++) {
    auto begin = std::chrono::steady_clock::now();
    stamp.assign(subjects, 0);
    long pairs = 0, permissions = 0;
    for (uint32_t account = 0; account < accounts; account++) {
      uint32_t end = 0, count = 0;
      queue[end++] = account;
      stamp[account] = account + 1;
      for (uint32_t at = 0; at < end; at++) {
        uint32_t subject = queue[at];
        for (int32_t i = upStart[subject]; i < upStart[subject + 1]; i++) {
          int32_t group = up[i];
          if (stamp[group] != account + 1) {
            stamp[group] = account + 1;
            queue[end++] = group;
          }
        }
      }
      for (uint32_t at = 0; at < end; at++) {
        uint32_t subject = queue[at];
        for (int32_t i = start[subject]; i < start[subject + 1]; i++) {
          if (bits[word[i]] == 0) touched[count++] = word[i];
          bits[word[i]] |= mask[i];
        }
      }
      pairs += end - 1;
      for (uint32_t i = 0; i < count; i++) {
        permissions += __builtin_popcountll(bits[touched[i]]);
        bits[touched[i]] = 0;
      }
    }
    double seconds =
        std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    printf("%ld %ld %f\n", pairs, permissions, seconds);
  }
  return 0;
}
