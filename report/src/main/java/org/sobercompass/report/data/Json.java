package org.sobercompass.report.data;

import java.util.List;
import java.util.Map;
import tools.jackson.core.JsonGenerator;

/** Writes values as JSON. */
final class Json {
  private Json() {}

  static void object(JsonGenerator out, List<String> names, Object... values) {
    out.writeStartObject();
    for (int i = 0; i < names.size(); i++) {
      out.writeName(names.get(i));
      value(out, values[i]);
    }
    out.writeEndObject();
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
            out.writeName(String.valueOf(key));
            value(out, item);
          });
      out.writeEndObject();
    } else {
      out.writeString(String.valueOf(value));
    }
  }
}
