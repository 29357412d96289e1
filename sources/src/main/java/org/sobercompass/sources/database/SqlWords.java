package org.sobercompass.sources.database;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.BiConsumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Statements taken apart into words (PostgreSQL 15 documentation, section 4.1): names, in lower
 * case unless they stand in quotes, and signs. Comments and what stands in dollar quotes are left
 * out.
 */
final class SqlWords {
  private static final Pattern PART =
      Pattern.compile(
          "(?s)--[^\n]*|/\\*.*?\\*/|(?<dollar>\\$[A-Za-z_]*\\$).*?\\k<dollar>|'(?:[^']++|'')*+'"
              + "|\"(?<quoted>(?:[^\"]++|\"\")*+)\"|(?<word>[\\p{L}_][\\p{L}\\p{N}_$]*|[0-9]+)"
              + "|(?<sign>[^\\s])");

  private final List<Word> words;
  private int at;

  /**
   * One word.
   *
   * @param text the name, or the sign
   * @param quoted whether it stood in quotes, so that it is no word of the language
   */
  record Word(String text, boolean quoted) {}

  private SqlWords(List<Word> words) {
    this.words = words;
  }

  /** Hands on each statement with the line that it begins in. */
  static void statements(String text, BiConsumer<SqlWords, Integer> take) {
    List<Word> words = new ArrayList<>();
    int line = 1;
    int from = 0;
    int begins = 1;
    Matcher part = PART.matcher(text);
    while (part.find()) {
      for (; from < part.start(); from++) {
        line += text.charAt(from) == '\n' ? 1 : 0;
      }
      boolean sign = part.group("sign") != null;
      if (sign && part.group("sign").equals(";")) {
        take.accept(new SqlWords(List.copyOf(words)), begins);
        words.clear();
        continue;
      }
      begins = words.isEmpty() ? line : begins;
      if (part.group("quoted") != null) {
        words.add(new Word(part.group("quoted").replace("\"\"", "\""), true));
      } else if (part.group("word") != null) {
        words.add(new Word(part.group("word").toLowerCase(Locale.ROOT), false));
      } else if (sign) {
        words.add(new Word(part.group("sign"), false));
      }
    }
    if (!words.isEmpty()) {
      take.accept(new SqlWords(List.copyOf(words)), begins);
    }
  }

  /** Whether nothing is left. */
  boolean isEnd() {
    return at >= words.size();
  }

  /** Whether these words come next; they are passed then. */
  boolean passes(String... next) {
    for (int i = 0; i < next.length; i++) {
      boolean is =
          at + i < words.size()
              && !words.get(at + i).quoted
              && words.get(at + i).text.equals(next[i]);
      if (!is) {
        return false;
      }
    }
    at += next.length;
    return true;
  }

  /** Whether one of these words comes next, and is not passed. */
  boolean isNext(String... some) {
    return !isEnd() && !words.get(at).quoted && List.of(some).contains(words.get(at).text);
  }

  /** The next word, whatever it is. */
  String next() {
    if (isEnd()) {
      throw new IllegalArgumentException("the statement ends too early");
    }
    return words.get(at++).text;
  }

  /** A name of one or more parts, as in {@code schema.table}. */
  List<String> name() {
    List<String> parts = new ArrayList<>(List.of(next()));
    while (passes(".")) {
      parts.add(next());
    }
    return parts;
  }

  /** What stands up to the bracket that closes the one that was passed, as it is. */
  String inBrackets() {
    StringBuilder inside = new StringBuilder();
    int depth = 1;
    while (depth > 0) {
      String word = next();
      depth += word.equals("(") ? 1 : word.equals(")") ? -1 : 0;
      boolean tight = inside.length() == 0 || word.equals(",") || depth == 0;
      if (depth > 0) {
        inside.append(tight ? "" : " ").append(word);
      }
    }
    return inside.toString();
  }
}
