package org.sobercompass.core.scope;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.sobercompass.core.problem.Place;

/**
 * A named set of directory objects: the union of what it includes without the union of what it
 * excepts.
 */
public record AdminScope(
    String id, String name, List<ScopeItem> include, List<ScopeItem> except, Place place) {
  /** Copies. */
  public AdminScope {
    include = List.copyOf(include);
    except = List.copyOf(except);
  }

  /** The same with a further line. */
  public AdminScope with(boolean excepted, ScopeItem line) {
    List<ScopeItem> lines = new ArrayList<>(excepted ? except : include);
    lines.add(line);
    return with(excepted, lines);
  }

  /** The same without the lines that name this subject and no other. */
  public AdminScope without(boolean excepted, int subject) {
    List<ScopeItem> lines = new ArrayList<>(excepted ? except : include);
    lines.removeIf(line -> names(line, subject));
    return with(excepted, lines);
  }

  /** The line that names this subject and no other, if there is one. */
  public Optional<ScopeItem> line(boolean excepted, int subject) {
    return (excepted ? except : include).stream().filter(l -> names(l, subject)).findFirst();
  }

  private static boolean names(ScopeItem line, int subject) {
    return line instanceof ScopeItem.Listed listed && listed.subjects().equals(List.of(subject));
  }

  private AdminScope with(boolean excepted, List<ScopeItem> lines) {
    return new AdminScope(id, name, excepted ? include : lines, excepted ? lines : except, place);
  }

  /** The same with nothing in it. */
  public AdminScope emptied() {
    return new AdminScope(id, name, List.of(), List.of(), place);
  }
}
