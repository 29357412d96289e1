package org.sobercompass.core.facts;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.Texts;

/**
 * The values of one attribute for all subjects, dictionary-coded. Frozen and thread-safe.
 *
 * @param codes for each subject the numbers of its values
 * @param dictionary the distinct values by number
 */
public record Column(IntRows codes, Texts dictionary) {

  /** The values of one subject, in the order of the source. */
  public List<String> values(int subject) {
    List<String> values = new ArrayList<>(codes.size(subject));
    for (int at = codes.start(subject); at < codes.end(subject); at++) {
      values.add(dictionary.get(codes.at(at)));
    }
    return values;
  }
}
