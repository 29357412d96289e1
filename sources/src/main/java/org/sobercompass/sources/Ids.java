package org.sobercompass.sources;

import java.util.regex.Pattern;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.text.Node;

/** Ids of applications, areas, levels, actions, roles and nodes. */
public final class Ids {
  private static final Pattern FORM = Pattern.compile("[\\p{L}\\p{N}][\\p{L}\\p{N}._-]*");

  private Ids() {}

  /** The id itself; a problem when it has characters that separate things. */
  public static String check(String id, Node node, Problems problems) {
    if (!id.isEmpty() && !FORM.matcher(id).matches()) {
      problems.error(
          node.place(),
          Problem.quote(id) + " is no id",
          "letters, digits, dots, hyphens and underscores, beginning with a letter or digit");
    }
    return id;
  }
}
