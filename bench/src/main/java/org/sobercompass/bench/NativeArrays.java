package org.sobercompass.bench;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.stream.Stream;
import org.sobercompass.core.access.AccessModel;

/** The plain arrays counted by a program in C++, where the machine has a compiler for it. */
final class NativeArrays {
  private NativeArrays() {}

  /** Prints best and median, or that there is no compiler. */
  static void count(AccessModel model, int tries, PlainArrays.Counts expected) throws IOException {
    Path folder = Files.createTempDirectory("plain");
    try {
      Path source = folder.resolve("plain_arrays.cpp");
      try (InputStream in = NativeArrays.class.getResourceAsStream("plain_arrays.cpp")) {
        Files.copy(Objects.requireNonNull(in), source);
      }
      Path program = folder.resolve("plain_arrays");
      Path arrays = folder.resolve("arrays.bin");
      try {
        run(List.of("g++", "-O3", "-march=native", "-o", program.toString(), source.toString()));
      } catch (IOException e) {
        System.out.println("no C++ compiler (g++): the program in C++ is left out");
        return;
      }
      PlainArrays.of(model).write(arrays);
      String[] lines =
          run(List.of(program.toString(), arrays.toString(), String.valueOf(tries))).split("\n");
      double[] seconds = new double[lines.length];
      for (int i = 0; i < lines.length; i++) {
        String[] parts = lines[i].split(" ");
        seconds[i] = Double.parseDouble(parts[2]);
        if (!expected.equals(
            new PlainArrays.Counts(Long.parseLong(parts[0]), Long.parseLong(parts[1])))) {
          throw new IllegalStateException("the program in C++ counts otherwise: " + lines[i]);
        }
      }
      Arrays.sort(seconds);
      System.out.printf(
          Locale.ROOT,
          "%-58s best %7.3f s  median %7.3f s%n",
          "plain arrays in C++, one thread",
          seconds[0],
          seconds[seconds.length / 2]);
    } finally {
      try (Stream<Path> all = Files.walk(folder)) {
        all.sorted(Comparator.reverseOrder()).forEach(p -> p.toFile().delete());
      }
    }
  }

  private static String run(List<String> command) throws IOException {
    Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
    String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    try {
      if (process.waitFor() != 0) {
        throw new IllegalStateException(command.get(0) + ": " + out);
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
    return out;
  }
}
