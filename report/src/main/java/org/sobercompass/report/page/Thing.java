package org.sobercompass.report.page;

import java.util.List;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.report.data.AnswerTable;

/** What a page can be about. Numbers are those of the model it is asked of. */
public sealed interface Thing {
  /** One account, and the other accounts of the same person. */
  record Account(int account) implements Thing {}

  /** A group. */
  record Group(int group) implements Thing {}

  /** An organizational unit: whoever and whatever is in it. */
  record Unit(int unit) implements Thing {}

  /** An application, a file tree, a database. */
  record Application(SystemView view) implements Thing {}

  /** A role of an application. */
  record Role(SystemView view, int role) implements Thing {}

  /** A permission at a node. */
  record Permission(SystemView view, int right, int node) implements Thing {}

  /** A node of an application, or a folder, and what lies below. */
  record Place(SystemView view, int node) implements Thing {}

  /** An admin scope. */
  record Scope(int scope) implements Thing {}

  /**
   * An answer that was worked out already: what differs between two surveys, what a proposal does.
   *
   * @param title what it is about
   * @param parts its tables, the answer first
   * @param pictures drawn above the first of them
   * @param command the command that gives all of it
   */
  record Answered(
      String title, List<AnswerTable> parts, List<Section.Picture> pictures, String command)
      implements Thing {
    /** Copies. */
    public Answered {
      parts = List.copyOf(parts);
      pictures = List.copyOf(pictures);
    }
  }
}
