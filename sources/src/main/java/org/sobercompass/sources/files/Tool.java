package org.sobercompass.sources.files;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Place;
import org.sobercompass.core.problem.Problem;

/** Runs the host's own tools. */
final class Tool {
  private static final int PATIENCE_SECONDS = 60;

  private Tool() {}

  /**
   * What a tool said.
   *
   * @param code its exit code
   * @param out what it wrote
   * @param err what it complained of
   */
  record Said(int code, String out, String err) {
    /** The first line of its complaint. */
    String why() {
      return err.lines().findFirst().orElse("no reason given");
    }
  }

  /**
   * Runs one to its end.
   *
   * @param from the package of the system that it comes with
   * @throws OutsideException when it is not there
   */
  static Said run(List<String> command, String in, String from) {
    try {
      Process process = new ProcessBuilder(command).start();
      process.getOutputStream().write(in.getBytes(StandardCharsets.UTF_8));
      process.getOutputStream().close();
      String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      String err = new String(process.getErrorStream().readAllBytes(), StandardCharsets.UTF_8);
      if (!process.waitFor(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
        process.destroyForcibly();
        return new Said(1, out, command.get(0) + " did not end");
      }
      return new Said(process.exitValue(), out, err.strip());
    } catch (IOException e) {
      throw new OutsideException(
          Problem.error(
              Place.of(command.get(0)),
              "the program cannot be run here",
              "the package " + from + " of the system"));
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return new Said(1, "", "interrupted");
    }
  }
}
