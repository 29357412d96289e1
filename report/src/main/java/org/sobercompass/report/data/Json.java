package org.sobercompass.report.data;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.sobercompass.core.problem.Plain;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.SerializableString;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.core.io.CharacterEscapes;
import tools.jackson.core.io.JsonStringEncoder;
import tools.jackson.core.io.SerializedString;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.core.json.JsonFactoryBuilder;

/**
 * Writes values as JSON. Control characters and those that turn the writing direction stand
 * escaped, so that nothing is lost and a terminal does nothing.
 */
public final class Json {
  private static final CharacterEscapes ESCAPES =
      new CharacterEscapes() {
        private static final long serialVersionUID = 1L;

        @Override
        public int[] getEscapeCodesForAscii() {
          int[] codes = standardAsciiEscapesForJSON();
          codes[0x7f] = ESCAPE_STANDARD;
          return codes;
        }

        @Override
        public @Nullable SerializableString getEscapeSequence(int c) {
          return Plain.isUnsafe((char) c) ? new SerializedString(escaped((char) c)) : null;
        }
      };

  private Json() {}

  /** What makes generators of such JSON; they leave the writer behind them open. */
  static JsonFactoryBuilder factory() {
    return JsonFactory.builder()
        .disable(StreamWriteFeature.AUTO_CLOSE_TARGET)
        .characterEscapes(ESCAPES);
  }

  /** A text in quotes, escaped. */
  public static String quote(String text) {
    StringBuilder out = new StringBuilder(text.length() + 2).append('"');
    for (char c : JsonStringEncoder.getInstance().quoteAsCharArray(text)) {
      if (Plain.isUnsafe(c)) {
        out.append(escaped(c));
      } else {
        out.append(c);
      }
    }
    return out.append('"').toString();
  }

  private static String escaped(char c) {
    return String.format(Locale.ROOT, "\\u%04X", (int) c);
  }

  static void object(JsonGenerator out, List<String> names, Object... values) {
    out.writeStartObject();
    for (int i = 0; i < names.size(); i++) {
      out.writeName(key(names.get(i)));
      value(out, values[i]);
    }
    out.writeEndObject();
  }

  /** A name without spaces, so that it can be typed behind a dot. */
  static String key(String name) {
    return name.replace(' ', '_');
  }

  static void value(JsonGenerator out, Object value) {
    if (value instanceof Integer number) {
      out.writeNumber(number);
    } else if (value instanceof Long number) {
      out.writeNumber(number);
    } else if (value instanceof Boolean yes) {
      out.writeBoolean(yes);
    } else if (value instanceof List<?> list) {
      out.writeStartArray();
      list.forEach(item -> value(out, item));
      out.writeEndArray();
    } else if (value instanceof Map<?, ?> map) {
      out.writeStartObject();
      map.forEach(
          (key, item) -> {
            out.writeName(key(String.valueOf(key)));
            value(out, item);
          });
      out.writeEndObject();
    } else {
      out.writeString(String.valueOf(value));
    }
  }
}
