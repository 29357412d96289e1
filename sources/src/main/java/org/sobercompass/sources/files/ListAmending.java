package org.sobercompass.sources.files;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.files.FileAccess;
import org.sobercompass.core.system.files.FileStyle;
import org.sobercompass.core.system.files.RewrittenList;
import org.sobercompass.core.system.files.ShareEntry;
import org.sobercompass.sources.Drafts;
import org.sobercompass.sources.SystemFormat;
import org.sobercompass.sources.disk.Folder;

/**
 * Makes whole lists of paths, as they were and as they are to be, of entries that are removed and
 * added.
 */
final class ListAmending {
  /** What the list of a path is called. */
  static final String LIST = "list";

  private final FileAccess system;
  private final Drafts into;
  private final Map<Integer, Steps> byPath = new LinkedHashMap<>();

  /** What is done to one list. */
  private record Steps(List<SystemFormat.Gone> gone, List<SystemFormat.Comes> come) {
    Steps() {
      this(new ArrayList<>(), new ArrayList<>());
    }

    List<Drafts.Numbered> all() {
      List<Drafts.Numbered> all = new ArrayList<>(gone);
      all.addAll(come);
      return all;
    }
  }

  ListAmending(
      FileAccess system, List<SystemFormat.Gone> gone, List<SystemFormat.Comes> come, Drafts into) {
    this.system = system;
    this.into = into;
    for (SystemFormat.Gone one : gone) {
      Grant grant = system.grants(system.usualBasis()).get(one.grant());
      byPath.computeIfAbsent(grant.resource(), r -> new Steps()).gone.add(one);
    }
    for (SystemFormat.Comes one : come) {
      byPath.computeIfAbsent(one.resource(), r -> new Steps()).come.add(one);
    }
  }

  private Set<Integer> entries(Steps steps) {
    Set<Integer> entries = new TreeSet<>();
    steps.gone.forEach(one -> system.entry(one.grant()).ifPresent(entries::add));
    return entries;
  }

  private void add(int resource, Steps steps, String was, String is) {
    into.add(
        new Drafts.Draft(
            Drafts.steps(steps.all()),
            system.id(),
            PosixTargetKind.ID,
            system.facts().tree().id(resource),
            List.of(new Difference(LIST, List.of(was), List.of(is)))));
  }

  /**
   * Of descriptors, and of lists of NFSv4: each list that the preview has otherwise, with those
   * below that get what is handed on.
   *
   * @param then the system as it is to be
   */
  void whole(FileAccess then) {
    Set<Integer> made = new TreeSet<>();
    for (RewrittenList list : RewrittenList.between(system.facts(), then.facts())) {
      Set<Integer> steps = steps(list);
      made.addAll(steps);
      boolean ofShare = !list.share().isEmpty();
      into.add(
          new Drafts.Draft(
              steps,
              system.id(),
              kind(ofShare),
              ofShare ? list.share() : system.facts().tree().id(list.resource()),
              List.of(
                  new Difference(
                      LIST, List.of(text(list.was(), list)), List.of(text(list.is(), list))))));
    }
    for (Steps steps : byPath.values()) {
      steps.all().stream()
          .filter(one -> !made.contains(one.step()))
          .forEach(one -> into.byHand(one.step(), "no list would be another by it"));
    }
  }

  private String kind(boolean ofShare) {
    return ofShare
        ? ShareListTargetKind.ID
        : system.facts().style() == FileStyle.NFS4 ? Nfs4TargetKind.ID : SharedTargetKind.ID;
  }

  private String text(Descriptor descriptor, RewrittenList list) {
    if (system.facts().style() != FileStyle.NFS4) {
      return Sddl.text(descriptor);
    }
    boolean owned =
        !list.was().owner().equals(list.is().owner())
            || !list.was().group().equals(list.is().group());
    return Nfs4Text.of(descriptor, owned);
  }

  /** The steps that change a list: those on it, and on what is above it. O(depth). */
  private Set<Integer> steps(RewrittenList list) {
    Set<Integer> steps = new TreeSet<>();
    boolean ofShare = !list.share().isEmpty();
    for (int r = list.resource(); r >= 0; r = ofShare ? -1 : system.facts().tree().parent(r)) {
      Steps own = byPath.get(r);
      if (own != null) {
        own.gone.stream()
            .filter(one -> system.entry(one.grant()).isEmpty() == ofShare)
            .forEach(one -> steps.add(one.step()));
        own.come.stream()
            .filter(one -> share(one).equals(list.share()))
            .forEach(one -> steps.add(one.step()));
      }
    }
    return steps;
  }

  /** The share whose own list an entry comes into; empty where it is the list of a path. */
  private static String share(SystemFormat.Comes one) {
    return ShareEntry.of(one.text()).map(ShareEntry::share).orElse("");
  }

  /** Of 1003.1e lists, from the files that they were read from. */
  void posix(Folder root) {
    Map<String, Integer> wanted = new HashMap<>();
    byPath.keySet().forEach(r -> wanted.put(system.facts().tree().id(r), r));
    Map<Integer, String> lists = new HashMap<>();
    for (String file : system.files()) {
      if (!file.endsWith(".yaml") && !file.endsWith(".yml")) {
        new Blocks(file, new Problems())
            .read(
                root.resolve(file),
                (path, body, line) ->
                    Optional.ofNullable(wanted.get(id(path)))
                        .ifPresent(r -> lists.put(r, PosixText.text(body))));
      }
    }
    byPath.forEach(
        (resource, steps) -> {
          String body = lists.getOrDefault(resource, "");
          List<String> entries = PosixText.entries(body);
          if (entries.isEmpty()) {
            steps.all().forEach(one -> into.byHand(one.step(), "its list was not read"));
            return;
          }
          boolean owned = steps.come.stream().anyMatch(one -> system.isExclusive(one.text()));
          List<String> was = new ArrayList<>(owned ? PosixText.owners(body) : List.of());
          was.addAll(PosixText.flags(body));
          was.addAll(entries);
          List<String> is = changed(was, steps);
          if (PosixText.isSame(String.join("\n", is), String.join("\n", was))) {
            String why = "the entry gives nothing and must stand";
            steps.all().forEach(one -> into.byHand(one.step(), why));
          } else {
            String before = String.join("\n", was);
            add(resource, steps, before, String.join("\n", is));
          }
        });
  }

  /** The list as it is to be. */
  private List<String> changed(List<String> was, Steps steps) {
    // A number means the same on every host; beside names it would be told otherwise.
    boolean numbers = !PosixText.isOfNames(was);
    List<String> is = PosixText.without(was, entries(steps));
    for (boolean added : new boolean[] {false, true}) {
      for (SystemFormat.Comes one : steps.come) {
        String text = numbers ? system.numbered(one.text()) : one.text();
        if (one.added() != added) {
          continue;
        }
        if (system.isExclusive(text)) {
          is = added ? PosixText.owned(is, text) : is;
        } else {
          is = added ? PosixText.with(is, text) : PosixText.withoutDefault(is, text);
        }
      }
    }
    return is;
  }

  /** A path as the tree has it. */
  private static String id(byte[] path) {
    ByteArrayOutputStream id = new ByteArrayOutputStream(path.length + 1);
    int from = 0;
    for (int at = 0; at <= path.length; at++) {
      if (at == path.length || path[at] == '/') {
        byte[] step = Arrays.copyOfRange(path, from, at);
        if (step.length > 0 && !(step.length == 1 && step[0] == '.')) {
          id.write('/');
          id.writeBytes(PathText.clean(step));
        }
        from = at + 1;
      }
    }
    return id.size() == 0 ? "/" : id.toString(StandardCharsets.UTF_8);
  }
}
