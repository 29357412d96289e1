package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.findings.FindingKind;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * What the product says, in one list to be read aloud: the help of every command, every kind of
 * finding with its sentence on the demo, the first line of every command, what {@code probe} and
 * the page say, and what a spoiled file brings. The list is {@code wording.txt}; with {@code
 * -Dsober.wording=write} it is written anew.
 */
class WordingTest {
  private static final Path HERE = Path.of("src/test/resources/wording");

  /** Words that read like a riddle or are not of the trade; each was there once. */
  private static final Pattern RIDDLES =
      Pattern.compile(
          "(?i)\\b(goes by|stands at the|by hand of|is no \\w+ in what|may be him|of them"
              + " all|what is left of|is there to|comes? in by|crosses the wire)\\b");

  @TempDir static Path demo;

  @BeforeAll
  static void write() {
    DemoFiles.write(demo);
  }

  private static List<String> lines(String file) throws IOException {
    return Files.readAllLines(HERE.resolve(file)).stream()
        .filter(line -> !line.isBlank() && !line.startsWith("#"))
        .toList();
  }

  private static SoberTest.Said sober(Path root, List<String> typed) {
    List<String> all = new ArrayList<>(typed);
    all.addAll(List.of("--workspace", root.toString()));
    return SoberTest.sober(all.toArray(String[]::new));
  }

  /** The first sentence of an output, unfolded. */
  private static String first(String text) {
    return Arrays.stream(text.split("\n", -1))
        .takeWhile(line -> !line.isBlank() && !line.matches("as of .*|[.] .*"))
        .map(String::strip)
        .collect(Collectors.joining(" "));
  }

  private static List<String> help() {
    List<String> told = new ArrayList<>();
    for (var command : Sober.commands("").getSubcommands().entrySet()) {
      var usage = command.getValue().getCommandSpec().usageMessage();
      told.add(command.getKey() + ": " + String.join(" ", usage.description()).strip());
    }
    return told;
  }

  private static List<String> kinds() {
    JsonNode all =
        JsonMapper.builder()
            .build()
            .readTree(sober(demo, List.of("findings", "--format", "json")).out());
    List<String> told = new ArrayList<>();
    for (FindingKind kind : FindingKind.values()) {
      String sentence = "";
      for (JsonNode row : all.get("rows")) {
        if (row.get("kind").asString().equals(kind.id()) && sentence.isEmpty()) {
          sentence = row.get("sentence").asString() + " — " + row.get("advice").asString();
        }
      }
      told.add(kind.id() + ": " + kind.words() + "\n    " + sentence);
    }
    return told;
  }

  private static List<String> answers() throws IOException {
    List<String> told = new ArrayList<>();
    for (String line : lines("commands.txt")) {
      SoberTest.Said said = sober(demo, List.of(line.split(" ")));
      String text = said.out().isBlank() ? said.err() : said.out();
      told.add("sober " + line + "  [" + said.code() + "]\n    " + first(text));
    }
    return told;
  }

  /** All that is said of the demo's directory when it is looked at for the first time. */
  private static String probe() {
    try (DemoDirectory directory =
        new DemoDirectory(demo.resolve("directory/alderfen.ldif"), "dc=alderfen,dc=example")) {
      SoberTest.Said said = SoberTest.sober("probe", directory.address(), "--plain");
      return (said.out() + said.err())
          .replace(directory.address(), "ADDRESS")
          .lines()
          .map(String::stripTrailing)
          .collect(Collectors.joining("\n"));
    }
  }

  /** The page's own words: its headings, labels and hints, without what it is filled with. */
  private static List<String> page() throws IOException {
    StringBuilder template = new StringBuilder();
    for (String part : List.of("page", "findings", "data", "matrix")) {
      template.append(Files.readString(Path.of("../report/src/main/jte/" + part + ".jte")));
    }
    return Pattern.compile("(?:>|(?:title|placeholder|aria-label)=\")([^<>${}@\"]{3,})(?:<|\")")
        .matcher(template)
        .results()
        .map(found -> found.group(1).replaceAll("\\s+", " ").strip())
        .filter(text -> text.matches(".*[a-z].*"))
        .distinct()
        .toList();
  }

  private static List<String> problems(Path folder) throws IOException {
    List<String> told = new ArrayList<>();
    Path root = folder.resolve("w");
    FullWorkspace.write(root);
    List<String> usual = messages(root);
    for (String line : lines("inputs.txt")) {
      String[] parts = line.split(" \\| ", -1);
      Path file = root.resolve(parts[0].strip());
      String text = Files.readString(file);
      String from = parts[1].strip().replace("<NL>", "\n");
      assertThat(text).as(line).contains(from);
      int at = text.indexOf(from);
      String to = parts[2].strip().replace("<NL>", "\n");
      Files.writeString(file, text.substring(0, at) + to + text.substring(at + from.length()));
      List<String> messages = new ArrayList<>(messages(root));
      messages.removeAll(usual);
      assertThat(messages).as("nothing is told of " + line).isNotEmpty();
      told.add(line + "\n    " + messages.get(0));
      Files.writeString(file, text);
    }
    return told;
  }

  private static List<String> messages(Path root) {
    SoberTest.Said said = sober(root, List.of("check", "--format", "jsonl"));
    List<String> messages = new ArrayList<>();
    JsonMapper mapper = JsonMapper.builder().build();
    for (String line : said.out().split("\n")) {
      if (line.startsWith("{")) {
        JsonNode row = mapper.readTree(line);
        String nearest = row.path("nearest").asString("");
        messages.add(
            row.path("place").asString("")
                + ": "
                + row.path("what").asString("")
                + "; expected "
                + row.path("expected").asString("")
                + (nearest.isEmpty() ? "" : "; did you mean " + nearest + "?"));
      }
    }
    said.err().lines().skip(1).filter(line -> line.contains("expected")).forEach(messages::add);
    return messages;
  }

  /** What the help shows is typed as it stands; nothing of it is mistyped or a fault. */
  @Test
  void everyExampleOfTheHelpRunsOnTheDemo(@TempDir Path folder) {
    DemoFiles.write(folder.resolve("demo"));
    List<String> wrong = new ArrayList<>();
    for (var command : Sober.commands("").getSubcommands().values()) {
      String footer = String.join("\n", command.getCommandSpec().usageMessage().footer());
      boolean onDemo = footer.contains("on the demo");
      for (String line : footer.replaceAll("\\\\\n\\s*", "").split("\n")) {
        String typed = line.strip().replaceFirst("   +.*", "");
        if (onDemo && typed.startsWith("sober ") && !NOT_HERE.matcher(typed).find()) {
          SoberTest.Said said = sober(folder.resolve("demo"), words(typed, folder));
          if (said.code() == 2 || said.code() > 3 && said.code() != 6) {
            wrong.add(typed + " [" + said.code() + "] " + said.err());
          }
        }
      }
    }
    assertThat(wrong).isEmpty();
  }

  /** Needs a server, or a file of somebody else. */
  private static final Pattern NOT_HERE = Pattern.compile("ldaps:|FILE|--join|questions.csv");

  /** The words of a line as a shell takes them apart; files are written into a folder. */
  private static List<String> words(String typed, Path folder) {
    List<String> words = new ArrayList<>();
    var parts = Pattern.compile("\"([^\"]*)\"|(\\S+)").matcher(typed.substring(6));
    while (parts.find()) {
      String word = parts.group(1) != null ? parts.group(1) : parts.group(2);
      boolean file =
          word.matches("amendments/.*|november|november-2|[a-z]+\\.(html|svg|xml|sarif|yaml|ldif)");
      words.add(file ? folder.resolve(word).toString() : word);
    }
    return words;
  }

  @Test
  void everythingIsSaidAsTheListHasIt(@TempDir Path folder) throws IOException {
    List<String> all = new ArrayList<>();
    all.add("# The help of every command");
    all.addAll(help());
    all.add("\n# Every kind of finding, with its sentence and advice on the demo");
    all.addAll(kinds());
    all.add("\n# What every command says first, on the demo, with its exit code");
    all.addAll(answers());
    all.add("\n# What probe says of the demo's directory");
    all.add(probe());
    all.add("\n# The page's own words");
    all.addAll(page());
    all.add("\n# What is said of a spoiled file");
    all.addAll(problems(folder));
    String text = String.join("\n", all).replace(demo.toString(), "DEMO") + "\n";
    Path list = HERE.resolve("wording.txt");
    if ("write".equals(System.getProperty("sober.wording"))) {
      Files.writeString(list, text, StandardCharsets.UTF_8);
    }
    assertThat(text).isEqualTo(Files.readString(list));
    assertThat(RIDDLES.matcher(text).results().map(r -> r.group()).toList()).isEmpty();
  }
}
