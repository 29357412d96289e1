package org.sobercompass.core.access;

import java.util.ArrayList;
import java.util.List;
import org.sobercompass.core.problem.Gap;

/** What was not read of the systems of a model. */
public final class Gaps {
  private Gaps() {}

  /** The systems of which lists could not be read, in their order. O(resources). */
  public static List<Gap> ofSystems(AccessModel model) {
    List<Gap> gaps = new ArrayList<>();
    for (SystemView view : model.systems()) {
      int unread = view.system().unread();
      if (unread > 0) {
        gaps.add(new Gap(Gap.Kind.FILE_LISTS, List.of(view.id()), unread, view.resources().size()));
      }
    }
    return gaps;
  }
}
