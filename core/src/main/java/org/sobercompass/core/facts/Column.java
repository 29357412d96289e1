package org.sobercompass.core.facts;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.core.filter.Schema;
import org.sobercompass.core.filter.Syntax;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.Texts;

/**
 * The values of one attribute for all subjects, dictionary-coded. Frozen and thread-safe.
 *
 * @param codes for each subject the numbers of its values
 * @param dictionary the distinct values by number
 */
public record Column(IntRows codes, Texts dictionary) {

  /**
   * How an attribute compares: by the schema, else as usual when the type is usual or was met;
   * empty when it is not known.
   */
  static Optional<Matching> matching(
      Map<String, Column> columns, Optional<Schema> schema, String attribute) {
    if (schema.isPresent()) {
      return schema.get().of(attribute);
    }
    Column column = columns.get(attribute);
    boolean met = column != null && column.codes().items() > 0;
    return met || Syntax.isKnown(attribute)
        ? Optional.of(Matching.usual(attribute))
        : Optional.empty();
  }

  /** The same with other values of some subjects, by number. O(subjects + values). */
  Column with(Map<Integer, List<String>> others) {
    Texts.Builder texts = Texts.builder(dictionary.size());
    for (int i = 0; i < dictionary.size(); i++) {
      texts.add(dictionary.get(i));
    }
    IntList from = new IntList();
    IntList to = new IntList();
    for (int subject = 0; subject < codes.rows(); subject++) {
      List<String> own = others.get(subject);
      for (int at = codes.start(subject); own == null && at < codes.end(subject); at++) {
        from.add(subject);
        to.add(codes.at(at));
      }
      if (own != null) {
        for (String value : own) {
          from.add(subject);
          to.add(texts.add(value));
        }
      }
    }
    return new Column(IntRows.ofPairs(codes.rows(), from, to), texts.build());
  }

  /** The values of one subject, in the order of the source. */
  public List<String> values(int subject) {
    List<String> values = new ArrayList<>(codes.size(subject));
    for (int at = codes.start(subject); at < codes.end(subject); at++) {
      values.add(dictionary.get(codes.at(at)));
    }
    return values;
  }
}
