package org.sobercompass.core.filter;

import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Parses the string form of search filters (RFC 4515). Nesting is limited to {@link #DEEPEST}. */
public final class FilterParser {
  private static final int MOST_PIECES = 1000;

  /** How deep filters may nest. */
  public static final int DEEPEST = 100;

  private final String text;
  private int at;

  private FilterParser(String text) {
    this.text = text;
  }

  /**
   * Parses a whole filter.
   *
   * @throws FilterSyntaxException with the column of the first thing that is wrong
   */
  public static Filter parse(String text) {
    FilterParser parser = new FilterParser(text.strip());
    Filter filter = parser.filter(0);
    if (parser.at < parser.text.length()) {
      throw parser.wrong("nothing after the closing parenthesis");
    }
    return filter;
  }

  private Filter filter(int depth) {
    if (depth > DEEPEST) {
      throw wrong("at most " + DEEPEST + " levels of nesting");
    }
    expect('(');
    Filter result =
        switch (peek()) {
          case '&' -> new Filter.And(list(depth));
          case '|' -> new Filter.Or(list(depth));
          case '!' -> not(depth);
          default -> item();
        };
    expect(')');
    return result;
  }

  private Filter not(int depth) {
    at++;
    return new Filter.Not(filter(depth + 1));
  }

  private List<Filter> list(int depth) {
    at++;
    List<Filter> parts = new ArrayList<>();
    while (peek() == '(') {
      parts.add(filter(depth + 1));
    }
    return List.copyOf(parts);
  }

  private Filter item() {
    int start = at;
    while ("=<>~:()".indexOf(peek()) < 0) {
      at++;
    }
    String attribute = attribute(text.substring(start, at));
    char sign = peek();
    if (sign == ':') {
      return extensible(attribute);
    }
    if (attribute.isEmpty()) {
      throw wrong("an attribute name");
    }
    if (sign == '=') {
      at++;
      return equality(attribute);
    }
    at++;
    expect('=');
    return switch (sign) {
      case '>' -> new Filter.Compare(attribute, Filter.Relation.AT_LEAST, value());
      case '<' -> new Filter.Compare(attribute, Filter.Relation.AT_MOST, value());
      case '~' -> new Filter.Compare(attribute, Filter.Relation.EQUAL, value());
      default -> throw wrong("one of = >= <= ~= :=");
    };
  }

  private static String attribute(String description) {
    int options = description.indexOf(';');
    String base = options < 0 ? description : description.substring(0, options);
    return base.strip().toLowerCase(Locale.ROOT);
  }

  private Filter extensible(String attribute) {
    int start = ++at;
    while (peek() != '=' && peek() != ')') {
      at++;
    }
    String rule = text.substring(start, at).toLowerCase(Locale.ROOT);
    expect('=');
    rule = rule.endsWith(":") ? rule.substring(0, rule.length() - 1) : rule;
    boolean inName = rule.equals("dn") || rule.startsWith("dn:");
    rule = inName ? rule.substring(Math.min(rule.length(), 3)) : rule;
    return new Filter.Extensible(attribute, inName, rule, value());
  }

  private Filter equality(String attribute) {
    List<String> pieces = new ArrayList<>();
    pieces.add(value());
    while (peek() == '*') {
      at++;
      if (pieces.size() == MOST_PIECES) {
        throw wrong("at most " + MOST_PIECES + " pieces between asterisks");
      }
      pieces.add(value());
    }
    int last = pieces.size() - 1;
    if (last == 0) {
      return new Filter.Compare(attribute, Filter.Relation.EQUAL, pieces.get(0));
    }
    List<String> any = pieces.subList(1, last).stream().filter(p -> !p.isEmpty()).toList();
    if (pieces.get(0).isEmpty() && pieces.get(last).isEmpty() && any.isEmpty()) {
      return new Filter.Present(attribute);
    }
    return new Filter.Substrings(attribute, pieces.get(0), any, pieces.get(last));
  }

  private String value() {
    int end = at;
    while (end < text.length() && text.charAt(end) != ')' && text.charAt(end) != '*') {
      end++;
    }
    ByteBuffer bytes = ByteBuffer.allocate((end - at) * 4);
    while (peek() != ')' && peek() != '*') {
      if (peek() == '(') {
        throw wrong("\\28 instead of a parenthesis inside a value");
      }
      if (peek() == '\\') {
        bytes.put((byte) escaped());
      } else {
        int point = text.codePointAt(at);
        at += Character.charCount(point);
        bytes.put(Character.toString(point).getBytes(StandardCharsets.UTF_8));
      }
    }
    return StandardCharsets.UTF_8.decode(bytes.flip()).toString();
  }

  private int escaped() {
    String digits =
        text.substring(Math.min(at + 1, text.length()), Math.min(at + 3, text.length()));
    if (!digits.matches("[0-9a-fA-F]{2}")) {
      throw wrong("two hexadecimal digits after the backslash");
    }
    at += 3;
    return Integer.parseInt(digits, 16);
  }

  private char peek() {
    if (at >= text.length()) {
      throw wrong("a closing parenthesis");
    }
    return text.charAt(at);
  }

  private void expect(char c) {
    if (at >= text.length() || text.charAt(at) != c) {
      throw wrong("'" + c + "'");
    }
    at++;
  }

  private FilterSyntaxException wrong(String expected) {
    return new FilterSyntaxException(text, at + 1, expected);
  }
}
