package org.sobercompass.examples;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import javax.tools.JavaCompiler;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The Java of the README, as it stands there: it compiles and runs on the demo. */
class ReadmeJavaTest {
  /** A user's editor adds these. */
  private static final List<String> IMPORTS =
      List.of(
          "java.nio.file.Path",
          "java.util.List",
          "org.sobercompass.core.audit.Preview",
          "org.sobercompass.core.carry.*",
          "org.sobercompass.core.crosswalk.*",
          "org.sobercompass.core.proposal.Proposal",
          "org.sobercompass.organization.*",
          "org.sobercompass.report.findings.FindingWords");

  @TempDir private Path folder;

  @Test
  void itCompilesAndPrintsARouteForEachHolder() throws Exception {
    Path demo = folder.resolve("demo");
    assertThat(ExamplesTest.sober("demo", demo.toString()).code()).isZero();
    compile(java("README.md", demo));
    assertThat(run().lines())
        .contains("YES")
        .anyMatch(line -> line.startsWith("no longer: Ilse Brandt (ilse.brandt) holds rights"))
        .anyMatch(line -> line.startsWith("Ilse Brandt (ilse.brandt) → orders-approvers"));
  }

  @Test
  void whatChangingShowsGivesARoleAndTakesItBack() throws Exception {
    Path demo = folder.resolve("changed");
    assertThat(ExamplesTest.sober("demo", demo.toString()).code()).isZero();
    Path table = demo.resolve("assignments/permits.actual.csv");
    String before = Files.readString(table);
    String code = java("docs/changing.md", demo);
    int back = code.lastIndexOf("Organization.open");
    compile(code.substring(0, back));
    assertThat(run()).contains("begins: ");
    assertThat(Files.readString(table)).isNotEqualTo(before).startsWith(before);
    Files.writeString(table, before);
    compile(code);
    run();
    assertThat(Files.readString(table)).isEqualTo(before);
  }

  @Test
  void whatCarryingOverShowsMatchesAndKeepsAProposal() throws Exception {
    Path demo = folder.resolve("merged");
    assertThat(ExamplesTest.sober("demo", demo.toString()).code()).isZero();
    compile(java("docs/carrying-over.md", demo));
    assertThat(run().lines()).contains("bgarnet is bea.garnet");
    assertThat(Files.readString(demo.resolve("merge.yaml"))).contains("name: \"merge\"");
  }

  /** The Java of a page, on a copy of the demo. */
  private static String java(String page, Path demo) throws Exception {
    String text = Files.readString(Path.of(System.getProperty("sober.home"), page));
    Matcher code = Pattern.compile("```java\n(.*?)```", Pattern.DOTALL).matcher(text);
    assertThat(code.find()).isTrue();
    assertThat(code.group(1)).contains("\"/tmp/alderfen\"");
    return code.group(1).replace("/tmp/alderfen", demo.toString());
  }

  private void compile(String code) throws Exception {
    String imports =
        IMPORTS.stream().map(name -> "import " + name + ";\n").collect(Collectors.joining());
    Path source = folder.resolve("Readme.java");
    Files.writeString(
        source,
        imports
            + "public class Readme {\n  public static void main(String[] args) throws Exception {\n"
            + code
            + "  }\n}\n");
    JavaCompiler compiler = ToolProvider.getSystemJavaCompiler();
    StringWriter told = new StringWriter();
    try (var files = compiler.getStandardFileManager(null, null, StandardCharsets.UTF_8)) {
      List<String> options =
          List.of(
              "-proc:none", "-cp", System.getProperty("java.class.path"), "-d", folder.toString());
      boolean done =
          compiler
              .getTask(told, files, null, options, null, files.getJavaFileObjects(source))
              .call();
      assertThat(done).as(told.toString()).isTrue();
    }
  }

  private String run() throws Exception {
    Process process =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Dstdout.encoding=UTF-8",
                "-Dfile.encoding=UTF-8",
                "-cp",
                folder + java.io.File.pathSeparator + System.getProperty("java.class.path"),
                "Readme")
            .redirectErrorStream(true)
            .start();
    String out = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    assertThat(process.exitValue()).as(out).isZero();
    return out;
  }
}
