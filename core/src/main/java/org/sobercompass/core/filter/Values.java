package org.sobercompass.core.filter;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** The attribute values of one entry, as a filter sees them. */
public interface Values {
  /** The values of an attribute (lower-case name without options); empty when it has none. */
  List<String> of(String attribute);

  /** The values of an attribute in the entry's name (RFC 4511 section 4.5.1.7.7). */
  default List<String> inName(String attribute) {
    return List.of();
  }

  /** The values of an attribute in a canonical DN. */
  static List<String> inName(String dnForm, String attribute) {
    List<String> found = new ArrayList<>();
    int start = 0;
    for (int i = 0; i <= dnForm.length(); i++) {
      if (i < dnForm.length() && dnForm.charAt(i) == '\\') {
        i++;
      } else if (i == dnForm.length() || ",+".indexOf(dnForm.charAt(i)) >= 0) {
        String part = dnForm.substring(start, i);
        if (part.startsWith(attribute + "=")) {
          found.add(part.substring(attribute.length() + 1));
        }
        start = i + 1;
      }
    }
    return found;
  }

  /**
   * How an attribute (lower-case name) compares in this directory; empty when it is not known
   * there, and items on it are undefined.
   */
  Optional<Matching> matching(String attribute);
}
