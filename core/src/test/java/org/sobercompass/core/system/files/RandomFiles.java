package org.sobercompass.core.system.files;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.access.Asker;
import org.sobercompass.core.access.SystemView;
import org.sobercompass.core.contract.SmallFacts;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.Implicit;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.system.Admission;
import org.sobercompass.core.system.ListedSystem;
import org.sobercompass.core.system.Question;
import org.sobercompass.core.system.Trustees;
import org.sobercompass.core.system.Verdict;

/** Random trees of files with lists of all three styles, the same for the same seed. */
final class RandomFiles {
  private RandomFiles() {}

  static final int ACCOUNTS = 5;
  static final int GROUPS = 3;
  static final int PATHS = 12;

  static Facts facts() {
    FactsBuilder builder =
        new FactsBuilder(List.of("objectsid", "uidnumber", "gidnumber"), dn -> dn, new Problems());
    FactsSource source = builder.source("d");
    for (int a = 0; a < ACCOUNTS; a++) {
      int row = source.add(row(SubjectKind.ACCOUNT, "a" + a));
      source.name(row, Space.LOGIN, "a" + a);
      source.values(row, "uidnumber", List.of(String.valueOf(1000 + a)));
      source.values(row, "objectsid", List.of("S-1-5-21-1-" + (1000 + a)));
    }
    for (int g = 0; g < GROUPS; g++) {
      int row = source.add(row(SubjectKind.GROUP, "g" + g));
      source.name(row, Space.LOGIN, "g" + g);
      source.values(row, "gidnumber", List.of(String.valueOf(2000 + g)));
      source.values(row, "objectsid", List.of("S-1-5-21-1-" + (2000 + g)));
      source.refer(row, Via.MEMBER, Space.LOGIN, "a" + g);
      source.refer(row, Via.MEMBER, Space.LOGIN, "a" + (g + 1));
    }
    return builder.build();
  }

  private static SubjectRow row(SubjectKind kind, String id) {
    return new SubjectRow(kind, id, id, id, id, id, "", 0, Facts.NEVER);
  }

  /** A path: where it stands, whether a folder, and the entries that are written there. */
  record Spot(int above, boolean folder, List<Ace> own, PosixList.Parts posix) {}

  static String sid(FileStyle style, int who) {
    boolean account = who < ACCOUNTS;
    String name = account ? "a" + who : "g" + (who - ACCOUNTS);
    int number = account ? 1000 + who : 2000 + who - ACCOUNTS;
    return style == FileStyle.SHARED ? "S-1-5-21-1-" + number : name + (account ? "" : " (g)");
  }

  static List<Spot> spots(FileStyle style, Random random) {
    List<Spot> spots = new ArrayList<>();
    List<Integer> folders = new ArrayList<>(List.of(0));
    for (int p = 0; p < PATHS; p++) {
      boolean folder = p == 0 || random.nextBoolean();
      int above = p == 0 ? -1 : folders.get(random.nextInt(folders.size()));
      if (folder && p > 0) {
        folders.add(p);
      }
      List<Ace> own = new ArrayList<>();
      for (int i = random.nextInt(3); i > 0; i--) {
        int flags = folder && random.nextInt(3) > 0 ? Ace.OBJECTS | Ace.CHILDREN : 0;
        AceType type = random.nextInt(3) == 0 ? AceType.DENY : AceType.ALLOW;
        int mask = random.nextBoolean() ? FileRights.READ : FileRights.CHANGE;
        Ace ace = Ace.of(type, flags, mask, sid(style, random.nextInt(ACCOUNTS + GROUPS)));
        if (!own.contains(ace)) {
          own.add(ace);
        }
      }
      own.sort((a, b) -> Boolean.compare(b.denies(), a.denies()));
      spots.add(new Spot(above, folder, own, posix(random)));
    }
    return spots;
  }

  /** Owner 1, group 1; perhaps a named user and a named group under a mask. */
  static PosixList.Parts posix(Random random) {
    boolean named = random.nextBoolean();
    int[] none = {};
    return new PosixList.Parts(
        2,
        1 + ACCOUNTS,
        -1,
        random.nextInt(8),
        random.nextInt(8),
        random.nextInt(8),
        named ? random.nextInt(8) : PosixList.NO_MASK,
        0,
        named ? new int[] {3} : none,
        named ? new int[] {random.nextInt(8)} : none,
        named ? new int[] {2 + ACCOUNTS} : none,
        named ? new int[] {random.nextInt(8)} : none,
        List.of(),
        0);
  }

  /** The tree made new: what comes from above is worked out at each path. */
  static FileAccess access(Facts facts, FileStyle style, List<Spot> spots) {
    FileFacts.Builder into = new FileFacts.Builder(style, trustees(facts, style));
    int[] nodes = new int[spots.size()];
    Descriptor[] made = new Descriptor[spots.size()];
    for (int p = 0; p < spots.size(); p++) {
      Spot spot = spots.get(p);
      nodes[p] =
          p == 0
              ? 0
              : into.paths().child(nodes[spot.above], ("p" + p).getBytes(StandardCharsets.UTF_8));
      if (style == FileStyle.POSIX) {
        into.put(nodes[p], spot.folder, into.list(p, new PosixList(spot.posix)));
        continue;
      }
      Descriptor own = descriptor(style, spot.own);
      List<Ace> all = new ArrayList<>(spot.own);
      if (p > 0 && style == FileStyle.SHARED) {
        FileInheritance.handed(made[spot.above], spot.folder, own).forEach(h -> all.add(h.ace()));
      }
      made[p] = descriptor(style, all);
      int[] named = all.stream().mapToInt(a -> number(style, a.trustee())).toArray();
      into.put(nodes[p], spot.folder, into.list(made[p], 1, named));
    }
    return access(facts, into.build());
  }

  /** Whom lists name: all accounts, then all groups. */
  static Trustees.Builder trustees(Facts facts, FileStyle style) {
    Trustees.Builder trustees = new Trustees.Builder(facts, facts.implicit(Implicit.EVERYONE));
    for (int s = 0; s < ACCOUNTS + GROUPS; s++) {
      int subject = s < ACCOUNTS ? s : facts.firstGroup() + s - ACCOUNTS;
      String kind = s < ACCOUNTS ? "u:" + (1000 + s) : "g:" + (2000 + s - ACCOUNTS);
      trustees.add(style == FileStyle.SHARED ? sid(style, s) : kind, facts.login(subject), subject);
    }
    return trustees;
  }

  /** Behind a sight of all of them. */
  static FileAccess access(Facts facts, FileFacts files) {
    return new FileAccess(
        new ListedSystem.Definition(
            "x",
            "x",
            SmallFacts.sight(true),
            new Admission(facts, false, Set.of(), Optional.empty()),
            List.of()),
        List.of(),
        files,
        facts);
  }

  static int number(FileStyle style, String trustee) {
    for (int s = 0; s < ACCOUNTS + GROUPS; s++) {
      if (sid(style, s).equals(trustee)) {
        return 1 + s;
      }
    }
    throw new AssertionError(trustee);
  }

  static Descriptor descriptor(FileStyle style, List<Ace> entries) {
    return new Descriptor(
        Descriptor.DACL_PRESENT,
        Optional.of(sid(style, 0)),
        Optional.empty(),
        Optional.of(entries),
        Optional.empty());
  }

  static AccessModel model(Facts facts, FileAccess system) {
    return AccessModel.of(facts, List.of(system), Instant.EPOCH, Optional.empty());
  }

  /** Who can do what where. */
  static Map<String, Verdict> decisions(AccessModel model) {
    Map<String, Verdict> all = new HashMap<>();
    SystemView view = model.systems().get(0);
    Asker asker = model.asker();
    for (int account = 0; account < ACCOUNTS; account++) {
      for (int r = 0; r < view.resources().size(); r++) {
        for (int right = 0; right < view.rights().size(); right++) {
          all.put(
              account + " " + view.resources().id(r) + " " + view.rights().text(right),
              asker.decide(view, account, Question.of(r, right)));
        }
      }
    }
    return all;
  }
}
