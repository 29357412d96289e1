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
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Grant;
import org.sobercompass.core.system.files.FileAccess;
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

  private static final String OF_SHARE = "the list of a share is changed where the share is set up";

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
      if (system.entry(one.grant()).isPresent()) {
        byPath.computeIfAbsent(grant.resource(), r -> new Steps()).gone.add(one);
      } else {
        into.byHand(one.step(), OF_SHARE);
      }
    }
    for (SystemFormat.Comes one : come) {
      if (ShareEntry.of(one.text()).isPresent()) {
        into.byHand(one.step(), OF_SHARE);
      } else {
        byPath.computeIfAbsent(one.resource(), r -> new Steps()).come.add(one);
      }
    }
  }

  private Set<Integer> entries(Steps steps) {
    Set<Integer> entries = new TreeSet<>();
    steps.gone.forEach(one -> system.entry(one.grant()).ifPresent(entries::add));
    return entries;
  }

  private void add(int resource, Steps steps, String kind, String was, String is) {
    into.add(
        new Drafts.Draft(
            Drafts.steps(steps.all()),
            system.id(),
            kind,
            system.facts().tree().id(resource),
            List.of(new Difference(LIST, List.of(was), List.of(is)))));
  }

  /** Of descriptors: the entries go, what was inherited from them goes with them. */
  void descriptors() {
    byPath.forEach(
        (resource, steps) -> {
          Optional<Descriptor> was = system.facts().descriptor(resource);
          if (was.isEmpty()) {
            steps.all().forEach(one -> into.byHand(one.step(), "its list was not read"));
            return;
          }
          Set<Integer> entries = entries(steps);
          List<Ace> left = new ArrayList<>();
          for (int i = 0; i < was.get().entries().size(); i++) {
            if (!entries.contains(i)) {
              left.add(was.get().entries().get(i));
            }
          }
          Descriptor is = was.get().with(left);
          for (SystemFormat.Comes one : steps.come) {
            if (!system.isExclusive(one.text())) {
              is = is.withMore(entry(one.text()));
            } else if (one.added()) {
              is = is.ownedBy(one.text().substring(one.text().indexOf(':') + 1));
            }
          }
          add(resource, steps, SharedTargetKind.ID, Sddl.text(was.get()), Sddl.text(is));
        });
  }

  /** What was laid over the model can be read. */
  private static Ace entry(String text) {
    try {
      return Sddl.readEntry(text, Optional.empty());
    } catch (MalformedException e) {
      throw new IllegalStateException(e);
    }
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
            add(resource, steps, PosixTargetKind.ID, before, String.join("\n", is));
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
