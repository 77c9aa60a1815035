/* The yardstick of the measuring page: the same work as plain loops, for the system compiler.
 * usage: plain read|multiplyAdd|chase THREADS MIB_EACH WINDOW_MS REPEATS -> one figure a line,
 * GB/s of all threads together, or ns for a step of the chase (one thread). */
#include <pthread.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <time.h>

#define PIECE (1 << 20)

static const char *kind;
static size_t bytes;
static double window_ms;
static int repeats, threads;
static pthread_barrier_t gate;
static double rates[64][64];
static volatile uint64_t sink;

static double now_ms(void) {
  struct timespec t;
  clock_gettime(CLOCK_MONOTONIC, &t);
  return t.tv_sec * 1e3 + t.tv_nsec / 1e6;
}

static void *memory(size_t size) {
  void *at = mmap(NULL, size, PROT_READ | PROT_WRITE, MAP_PRIVATE | MAP_ANONYMOUS, -1, 0);
  if (at == MAP_FAILED) exit(2);
  return at;
}

static uint64_t read_piece(const uint64_t *at) {
  uint64_t sum = 0;
  for (size_t i = 0; i < PIECE / 8; i++) sum ^= at[i];
  return sum;
}

static void multiply_add(double *restrict a, const double *restrict b, const double *restrict c) {
  for (size_t i = 0; i < PIECE / 8; i++) a[i] = b[i] + 0.5 * c[i];
}

static void *work(void *given) {
  const int self = (int)(intptr_t)given;
  const int arrays = strcmp(kind, "multiplyAdd") == 0 ? 3 : 1;
  const size_t part = bytes / arrays / PIECE * PIECE;
  char *base = memory(bytes + 4096);
  double *filled = (double *)base;
  for (size_t i = 0; i < (bytes + 4096) / 8; i++) filled[i] = 1.5;
  for (int run = 0; run < repeats; run++) {
    pthread_barrier_wait(&gate);
    const double from = now_ms();
    double spent = 0;
    size_t pieces = 0, at = 0;
    while (spent < window_ms) {
      if (arrays == 1)
        sink ^= read_piece((uint64_t *)(base + at));
      else
        multiply_add((double *)(base + at), (double *)(base + part + 1024 + at),
                    (double *)(base + 2 * (part + 1024) + at));
      at = at + 2 * PIECE > part ? 0 : at + PIECE;
      pieces++;
      spent = now_ms() - from;
    }
    rates[self][run] = (double)pieces * PIECE * arrays / spent / 1e6;
  }
  return NULL;
}

static int32_t state = 20011;

static double draw(void) {
  state ^= (int32_t)((uint32_t)state << 13);
  state ^= (int32_t)((uint32_t)state >> 17);
  state ^= (int32_t)((uint32_t)state << 5);
  return (uint32_t)state / 4294967296.0;
}

static void shuffle(uint32_t *values, size_t count) {
  for (size_t i = count - 1; i > 0; i--) {
    const size_t other = (size_t)(draw() * (double)(i + 1));
    const uint32_t swap = values[i];
    values[i] = values[other];
    values[other] = swap;
  }
}

/* The page's chain: every second line, shuffled within stretches of 2 MiB, stretches shuffled. */
static void chase(void) {
  const size_t stretch = 2 << 20, stretches = bytes / stretch, each = stretch / 128;
  char *base = memory(bytes);
  uint32_t *order = malloc(stretches * each * 4), *turns = malloc(stretches * 4);
  for (size_t i = 0; i < stretches; i++) turns[i] = (uint32_t)i;
  shuffle(turns, stretches);
  for (size_t i = 0; i < stretches; i++) {
    for (size_t j = 0; j < each; j++)
      order[i * each + j] = (uint32_t)(turns[i] * stretch + j * 128);
    shuffle(order + i * each, each);
  }
  const size_t lines = stretches * each;
  for (size_t i = 0; i < lines; i++)
    *(uint32_t *)(base + order[i]) = order[i + 1 < lines ? i + 1 : 0];
  uint32_t here = order[0];
  for (int run = 0; run < repeats; run++) {
    const double from = now_ms();
    double spent = 0;
    size_t steps = 0;
    while (spent < window_ms) {
      for (int i = 0; i < 8192; i++) here = *(volatile uint32_t *)(base + here);
      steps += 8192;
      spent = now_ms() - from;
    }
    printf("%.4f\n", spent * 1e6 / steps);
  }
}

int main(int count, char **given) {
  if (count != 6) return 1;
  kind = given[1];
  threads = atoi(given[2]);
  bytes = (size_t)atoi(given[3]) << 20;
  window_ms = atof(given[4]);
  repeats = atoi(given[5]);
  if (threads > 64 || repeats > 64) return 1;
  if (strcmp(kind, "chase") == 0) {
    chase();
    return 0;
  }
  pthread_t all[64];
  pthread_barrier_init(&gate, NULL, threads);
  for (int i = 0; i < threads; i++) pthread_create(&all[i], NULL, work, (void *)(intptr_t)i);
  for (int i = 0; i < threads; i++) pthread_join(all[i], NULL);
  for (int run = 0; run < repeats; run++) {
    double sum = 0;
    for (int i = 0; i < threads; i++) sum += rates[i][run];
    printf("%.4f\n", sum);
  }
  return 0;
}
