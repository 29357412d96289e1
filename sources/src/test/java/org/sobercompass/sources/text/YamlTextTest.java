package org.sobercompass.sources.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.sobercompass.core.problem.OutsideException;
import org.sobercompass.core.problem.Problems;

/** What is not concerned stays byte for byte; what is written is read back. */
class YamlTextTest {
  private static final int SEEDS = 500;

  @TempDir Path folder;

  private YamlText of(String text) throws IOException {
    Files.writeString(folder.resolve("a.yaml"), text);
    return new YamlText(folder.resolve("a.yaml"), "a.yaml");
  }

  private static final List<String> EXCEPT = List.of("scopes", "glass", "except");

  @Test
  void anItemIsAddedAfterTheLastWithItsIndent() throws IOException {
    YamlText yaml =
        of(
            "scopes:\n"
                + "  glass:   # the houses\n"
                + "    except:\n"
                + "    - account: a # the first\n"
                + "\n"
                + "    # nobody else\n"
                + "    name: Glass\n");
    yaml.append(EXCEPT, item("group", "b c", "groups", "both"));
    assertThat(yaml.text())
        .isEqualTo(
            "scopes:\n"
                + "  glass:   # the houses\n"
                + "    except:\n"
                + "    - account: a # the first\n"
                + "    - group: \"b c\"\n"
                + "      groups: both\n"
                + "\n"
                + "    # nobody else\n"
                + "    name: Glass\n");
    yaml.remove(EXCEPT, 0);
    assertThat(yaml.text()).contains("    except:\n    - group: \"b c\"\n").doesNotContain("first");
  }

  @Test
  void aListThatIsNotThereIsMade() throws IOException {
    YamlText block = of("scopes:\n  glass:\n    name: |\n      Glass\n\n  other: 1");
    block.append(EXCEPT, item("account", "a"));
    assertThat(block.text())
        .isEqualTo(
            "scopes:\n  glass:\n    name: |\n      Glass\n    except:\n      - account: a\n\n"
                + "  other: 1");
    YamlText flow = of("{scopes: {glass: {name: 'G'}}} # end");
    flow.append(EXCEPT, item("account", "no"));
    flow.append(EXCEPT, item("account", "b"));
    assertThat(flow.text())
        .isEqualTo(
            "{scopes: {glass: {name: 'G', except: [{account: \"no\"}, {account: b}]}}} # end");
    YamlText empty = of("scopes:\n  glass:\n    except: # none\n    name: g\n");
    empty.append(EXCEPT, item("account", "a"));
    assertThat(empty.text())
        .isEqualTo("scopes:\n  glass:\n    except: [{account: a}] # none\n    name: g\n");
  }

  @Test
  void aValueIsSetAndClearedWhereverItStands() throws IOException {
    YamlText yaml = of("roles:\n  clerk:\n    allows: {orders: raise, 'x y': view}\n    name: C");
    List<String> orders = List.of("roles", "clerk", "allows", "orders");
    yaml.set(orders, List.of("sign", "count"));
    yaml.set(List.of("roles", "clerk", "allows", "*"), List.of("view"));
    yaml.set(List.of("roles", "clerk", "includes"), List.of("a", "b"));
    assertThat(yaml.text())
        .isEqualTo(
            "roles:\n  clerk:\n    allows: {orders: [sign, count], 'x y': view, \"*\": view}\n"
                + "    name: C\n    includes: [a, b]");
    yaml.clear(orders);
    yaml.clear(List.of("roles", "clerk", "includes"));
    yaml.clear(List.of("roles", "clerk", "allows", "*"));
    assertThat(yaml.text()).isEqualTo("roles:\n  clerk:\n    allows: {'x y': view}\n    name: C");
  }

  @Test
  void whatCannotBeFoundIsToldAndAFileThatChangedIsNotOverwritten() throws IOException {
    YamlText yaml = of("scopes: {glass: {except: none}}");
    assertThatThrownBy(() -> yaml.append(EXCEPT, item("account", "a")))
        .isInstanceOf(OutsideException.class)
        .hasMessageContaining("scopes: glass: except is no list");
    assertThatThrownBy(() -> yaml.clear(List.of("roles", "x")))
        .hasMessageContaining("roles is not there");
    yaml.set(EXCEPT, List.of("a"));
    Files.writeString(folder.resolve("a.yaml"), "scopes: {}");
    assertThatThrownBy(yaml::write).hasMessageContaining("changed by somebody else");
    assertThat(Files.readString(folder.resolve("a.yaml"))).isEqualTo("scopes: {}");
  }

  private static Map<String, String> item(String... parts) {
    Map<String, String> item = new LinkedHashMap<>();
    for (int i = 0; i < parts.length; i += 2) {
      item.put(parts[i], parts[i + 1]);
    }
    return item;
  }

  /** A file with scopes, each with two lists, in one of many styles. */
  private static final class Written {
    private final Random random;
    private final String end;
    private final List<List<List<String>>> lists = new ArrayList<>();

    Written(Random random) {
      this.random = random;
      this.end = random.nextBoolean() ? "\n" : "\r\n";
    }

    String text() {
      StringBuilder text = new StringBuilder(random.nextInt(4) == 0 ? "\uFEFF" : "");
      text.append("# top é\uD83C\uDF3F").append(end).append("scopes:").append(end);
      for (int scope = 0; scope < 3; scope++) {
        lists.add(new ArrayList<>(List.of(new ArrayList<>(), new ArrayList<>())));
        text.append("  s").append(scope).append(':').append(noise()).append(end);
        text.append("    name: 'a: \"b\" #c'").append(end);
        for (int side = 0; side < 2; side++) {
          side(text, scope, side);
        }
      }
      String all = text.toString();
      return random.nextInt(3) == 0 ? all.substring(0, all.length() - end.length()) : all;
    }

    private void side(StringBuilder text, int scope, int side) {
      int items = random.nextInt(4);
      if (items == 0 && random.nextBoolean()) {
        return;
      }
      boolean flow = items == 0 || random.nextInt(3) == 0;
      String indent = random.nextBoolean() ? "    " : "      ";
      text.append("    l").append(side).append(':').append(flow ? " [" : noise() + end);
      for (int i = 0; i < items; i++) {
        String value = "v" + scope + side + i;
        lists.get(scope).get(side).add(value);
        text.append(flow ? (i > 0 ? ", " : "") : indent + "- ");
        text.append(
            flow || random.nextBoolean() ? "{account: " + value + "}" : "account: " + value);
        text.append(flow ? "" : noise() + end);
        text.append(!flow && random.nextInt(4) == 0 ? end + "   # between" + end : "");
      }
      text.append(flow ? "]" + noise() + end : "");
    }

    private String noise() {
      return random.nextInt(3) == 0 ? "  # said, [with] {signs}" : "";
    }
  }

  private List<List<List<String>>> read(String text) throws IOException {
    Path file = folder.resolve("r.yaml");
    Files.writeString(file, text);
    Problems problems = new Problems();
    Node node = YamlReader.read(file, "r.yaml", problems).orElseThrow();
    assertThat(problems.list()).isEmpty();
    List<List<List<String>>> all = new ArrayList<>();
    for (int scope = 0; scope < 3; scope++) {
      Node of = node.get("scopes").orElseThrow().get("s" + scope).orElseThrow();
      assertThat(of.text("name")).contains("a: \"b\" #c");
      List<List<String>> sides = new ArrayList<>();
      for (String side : List.of("l0", "l1")) {
        sides.add(
            of.get(side).map(Node::items).orElse(List.of()).stream()
                .map(item -> item.text("account").orElse(""))
                .toList());
      }
      all.add(sides);
    }
    return all;
  }

  @Test
  void listsHoldWhatWasAddedAndAllElseStays() throws IOException {
    for (long seed = 0; seed < SEEDS; seed++) {
      Random random = new Random(seed);
      Written written = new Written(random);
      String before = written.text();
      YamlText yaml = of(before);
      for (int i = 1 + random.nextInt(5); i > 0; i--) {
        int scope = random.nextInt(3);
        int side = random.nextInt(2);
        List<String> list = written.lists.get(scope).get(side);
        List<String> path = List.of("scopes", "s" + scope, "l" + side);
        if (!list.isEmpty() && random.nextBoolean()) {
          int at = random.nextInt(list.size());
          list.remove(at);
          yaml.remove(path, at);
        } else {
          String value = random.nextBoolean() ? "n\"e: w #" + i : "no";
          list.add(value);
          yaml.append(path, item("account", value));
        }
      }
      assertThat(read(yaml.text())).as("seed " + seed).isEqualTo(written.lists);
      // Every line that names no item is there as it was, in order.
      assertThat(kept(yaml.text())).as("seed " + seed).containsSubsequence(kept(before));
      assertThat(yaml.text().startsWith("\uFEFF")).isEqualTo(before.startsWith("\uFEFF"));
      if (before.contains("\r\n")) {
        assertThat(yaml.text().replace("\r\n", "")).doesNotContain("\n");
      }
    }
  }

  /** The lines that no item stands in. */
  private static List<String> kept(String text) {
    return text.lines().filter(line -> !line.matches(".*(account:|l[01]:).*")).toList();
  }

  @Test
  void addingAndTakingOutAgainLeavesNothing() throws IOException {
    for (long seed = 0; seed < SEEDS; seed++) {
      Random random = new Random(seed);
      Written written = new Written(random);
      String before = written.text();
      YamlText yaml = of(before);
      int scope = random.nextInt(3);
      int side = random.nextInt(2);
      int items = written.lists.get(scope).get(side).size();
      if (items > 0) {
        List<String> path = List.of("scopes", "s" + scope, "l" + side);
        yaml.append(path, item("account", "new"));
        yaml.remove(path, items);
        assertThat(yaml.text()).as("seed " + seed).isEqualTo(before);
      }
    }
  }
}
