package org.sobercompass.cli;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What a role says of areas, as it is typed: {@code payments=view,print}. */
final class AreaWords {
  private AreaWords() {}

  /** By area, a level and actions; nothing for no entry. */
  static Map<String, List<String>> all(List<String> entries) {
    Map<String, List<String>> all = new LinkedHashMap<>();
    for (String entry : entries) {
      int equals = entry.indexOf('=');
      if (equals < 0) {
        throw new UsageException(entry + ": expected AREA=LEVEL, or AREA= for no entry");
      }
      String words = entry.substring(equals + 1);
      all.put(entry.substring(0, equals), words.isEmpty() ? List.of() : List.of(words.split(",")));
    }
    return all;
  }
}
