package org.sobercompass.sources;

import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Other processes of the Java that runs the tests, to be killed and ended. */
public final class JavaProcess {
  private JavaProcess() {}

  /** Runs a class with the class path of the tests; what it says comes in one stream. */
  public static ProcessBuilder of(Class<?> main, String... arguments) {
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(List.of("-XX:TieredStopAtLevel=1", "-cp", classPath(), main.getName()));
    command.addAll(List.of(arguments));
    return new ProcessBuilder(command).redirectErrorStream(true);
  }

  private static String classPath() {
    ClassLoader loader = JavaProcess.class.getClassLoader();
    return loader instanceof URLClassLoader of
        ? Stream.of(of.getURLs()).map(URL::getPath).collect(Collectors.joining(":"))
        : System.getProperty("java.class.path");
  }
}
