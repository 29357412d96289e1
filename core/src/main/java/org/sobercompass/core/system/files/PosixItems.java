package org.sobercompass.core.system.files;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.problem.Problem;
import org.sobercompass.core.system.ListWish;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.files.PosixList.Parts;

/**
 * What lists of 1003.1e say of somebody that gives nothing by itself: default entries, as in {@code
 * default:user:ann:rwx}, and who owns a path, as in {@code owner:ann} and {@code
 * owning-group:desk}.
 */
final class PosixItems implements ListItems {
  private static final String DEFAULT = "default:";

  private final FileFacts facts;
  private final FileTrustees names;

  PosixItems(FileFacts facts, FileTrustees names) {
    this.facts = facts;
    this.names = names;
  }

  @Override
  public String words(String text) {
    String who = text.substring(text.indexOf(':') + 1);
    return (text.startsWith(GROUP) ? "owning group " : "owner ") + who;
  }

  /** The same with the number in place of the name. */
  static String numbered(String text, FileTrustees names) {
    int at = text.indexOf(':') + 1;
    return text.substring(0, at)
        + names.id(text.startsWith(GROUP), text.substring(at)).substring(2);
  }

  /** Whether a text is such an item. */
  static boolean is(String text) {
    return ListItems.isOwner(text) || text.startsWith(DEFAULT) && PosixEntry.of(text).isNamed();
  }

  @Override
  public Map<Integer, List<ListWish.Edit>> all() {
    Map<Integer, List<ListWish.Edit>> all = new HashMap<>();
    for (int r = 0; r < facts.tree.size(); r++) {
      PosixList list = facts.list(r).map(PosixList.class::cast).orElse(null);
      if (list != null) {
        Parts parts = list.parts();
        owned(all, r, OWNER, parts.owner());
        owned(all, r, GROUP, parts.group());
        for (String line : parts.defaults()) {
          if (PosixEntry.is(line) && PosixEntry.of(line).isNamed()) {
            PosixEntry entry = PosixEntry.of(line);
            String id = entry.id(names);
            String may = PosixList.may(entry.may());
            String text = DEFAULT + entry.kind() + ":" + names.name(id) + ":" + may;
            add(all, r, text, facts.trustees.find(id));
          }
        }
      }
    }
    return all;
  }

  private void owned(
      Map<Integer, List<ListWish.Edit>> all, int resource, String kind, int trustee) {
    if (trustee >= 0) {
      add(all, resource, kind + names.name(facts.trustees.text(trustee)), trustee);
    }
  }

  private void add(Map<Integer, List<ListWish.Edit>> all, int resource, String text, int trustee) {
    int subject = trustee < 0 ? -1 : facts.trustees.subject(trustee);
    if (subject >= 0) {
      all.computeIfAbsent(subject, s -> new ArrayList<>())
          .add(new ListWish.Edit(resource, text, true));
    }
  }

  @Override
  public String renamed(String text, String id) {
    boolean group = id.startsWith("g:");
    if (ListItems.isOwner(text)) {
      if (text.startsWith(GROUP) != group) {
        throw new IllegalArgumentException(
            names.name(id) + (group ? " is a group" : " is no group") + ", and cannot stand there");
      }
      return text.substring(0, text.indexOf(':') + 1) + names.name(id);
    }
    int may = PosixEntry.of(text).may();
    return DEFAULT + (group ? "group:" : "user:") + names.name(id) + ":" + PosixList.may(may);
  }

  /** Two default entries for the same as one. */
  static String joined(String text, String other) {
    int may = PosixEntry.of(text).may() | PosixEntry.of(other).may();
    return text.substring(0, text.lastIndexOf(':') + 1) + PosixList.may(may);
  }

  @Override
  public boolean has(int resource, String text) {
    if (!is(text)) {
      return false;
    }
    Parts parts = parts(resource);
    if (ListItems.isOwner(text)) {
      int trustee = text.startsWith(GROUP) ? parts.group() : parts.owner();
      return trustee >= 0 && facts.trustees.text(trustee).equals(id(text));
    }
    PosixEntry wanted = PosixEntry.of(text);
    return parts.defaults().stream()
        .filter(PosixEntry::is)
        .map(PosixEntry::of)
        .anyMatch(
            line ->
                line.kind().equals(wanted.kind())
                    && line.isNamed()
                    && line.may() == wanted.may()
                    && line.id(names).equals(wanted.id(names)));
  }

  private String id(String text) {
    return names.id(text.startsWith(GROUP), text.substring(text.indexOf(':') + 1));
  }

  private Parts parts(int resource) {
    return ((PosixList) facts.readList(resource)).parts();
  }

  @Override
  public FileFacts without(int resource, String text) {
    if (ListItems.isOwner(text)) {
      return facts;
    }
    Parts parts = parts(resource);
    PosixEntry gone = PosixEntry.of(text);
    List<String> left = new ArrayList<>(parts.defaults());
    left.removeIf(
        line ->
            PosixEntry.is(line)
                && PosixEntry.of(line).isNamed()
                && PosixEntry.of(line).kind().equals(gone.kind())
                && PosixEntry.of(line).id(names).equals(gone.id(names)));
    return facts.with(Map.of(resource, new PosixList(parts.with(left))), facts.trustees);
  }

  @Override
  public FileFacts owned(int resource, String text) {
    Parts parts = parts(resource);
    String id = id(text);
    if (id.substring(2).isEmpty()) {
      throw new IllegalArgumentException(
          Problem.quote(text) + " names nobody; expected owner:NAME or owning-group:NAME");
    }
    Trustees more = names.with(facts.trustees, id);
    int trustee = more.find(id);
    boolean ofGroup = text.startsWith(GROUP);
    return facts.with(
        Map.of(
            resource,
            new PosixList(
                parts.owned(ofGroup ? parts.owner() : trustee, ofGroup ? trustee : parts.group()))),
        more);
  }
}
