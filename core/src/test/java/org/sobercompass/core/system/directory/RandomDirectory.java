package org.sobercompass.core.system.directory;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.UUID;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.Requirement;
import org.sobercompass.core.delegation.TreeBuilder;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsBuilder.Space;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.problem.Problems;

/**
 * A small directory at random: two units with accounts and groups in them, some without a SID, some
 * with one from earlier, groups that list SIDs and everybody, lists of all kinds of entries, lists
 * that were not read, and names that the directory does not know.
 */
final class RandomDirectory {
  static final int ACCOUNTS = 5;
  static final int GROUPS = 4;
  static final String DOMAIN = "S-1-5-21-7";
  static final String STRANGER = "S-1-5-21-9-1";
  private static final UUID MEMBER = new UUID(1, 1);
  private static final UUID SECRET = new UUID(1, 2);
  private static final UUID RESET = new UUID(2, 1);
  private static final UUID USER = new UUID(3, 1);
  private static final UUID GROUP = new UUID(3, 2);
  private static final UUID PARTS = new UUID(4, 1);
  private static final UUID[] NAMED = {MEMBER, SECRET, RESET, USER, GROUP, PARTS};

  final Random random;
  final Facts facts;
  final DirectoryTree tree;
  final List<AdminAction> actions;
  private final List<String> sids = new ArrayList<>();

  RandomDirectory(long seed) {
    this.random = new Random(seed);
    for (int s = 0; s < ACCOUNTS + GROUPS; s++) {
      boolean withheld = s < ACCOUNTS && random.nextInt(8) == 0;
      sids.add(withheld ? "" : DOMAIN + "-" + (1000 + s));
    }
    this.facts = subjects();
    this.tree = objects();
    this.actions = actions();
  }

  private static String dn(int s) {
    String name = s < ACCOUNTS ? "a" + s : "g" + (s - ACCOUNTS);
    return "cn=" + name + ",ou=u" + s % 2 + ",dc=x";
  }

  private Facts subjects() {
    FactsBuilder builder = new FactsBuilder(List.of(), dn -> dn, new Problems());
    FactsSource source = builder.source("d");
    for (int s = 0; s < ACCOUNTS + GROUPS; s++) {
      SubjectKind kind = s < ACCOUNTS ? SubjectKind.ACCOUNT : SubjectKind.GROUP;
      String name = s < ACCOUNTS ? "a" + s : "g" + (s - ACCOUNTS);
      int row =
          source.add(new SubjectRow(kind, name, dn(s), dn(s), name, name, "", 0, Facts.NEVER));
      source.name(row, Space.LOGIN, name);
      for (int m = 0; s >= ACCOUNTS && m < s; m++) {
        if (random.nextInt(4) == 0) {
          String member = m < ACCOUNTS ? "a" + m : "g" + (m - ACCOUNTS);
          source.refer(row, Via.MEMBER, Space.LOGIN, member);
        }
      }
    }
    return builder.build();
  }

  private DirectoryTree objects() {
    DsNames names = new DsNames();
    names.add(new DsNames.ObjectClass("top", new UUID(3, 0), "", Optional.empty()));
    names.add(new DsNames.ObjectClass("user", USER, "top", Optional.empty()));
    names.add(new DsNames.ObjectClass("group", GROUP, "top", Optional.empty()));
    names.add(new DsNames.ObjectClass("unit", new UUID(3, 3), "top", Optional.empty()));
    names.add(new DsNames.AttributeType("member", MEMBER, Optional.of(PARTS), false));
    names.add(new DsNames.AttributeType("secret", SECRET, Optional.empty(), true));
    names.add(new DsNames.ControlRight("reset", "reset", RESET, DsRights.CONTROL_ACCESS));
    names.whole();
    TreeBuilder builder = new TreeBuilder("d");
    object(builder, "dc=x", "unit", "", List.of());
    object(builder, "ou=u0,dc=x", "unit", "", List.of());
    object(builder, "ou=u1,dc=x", "unit", "", List.of());
    for (int s = 0; s < ACCOUNTS + GROUPS; s++) {
      List<String> earlier = random.nextInt(5) == 0 ? List.of("S-1-5-21-8-" + s % 3) : List.of();
      object(builder, dn(s), s < ACCOUNTS ? "user" : "group", sids.get(s), earlier);
    }
    if (random.nextInt(3) == 0) {
      builder.implicitEverywhere();
    }
    for (int i = random.nextInt(4); i > 0; i--) {
      String[] listed = {WellKnown.AUTHENTICATED, sid(random), "S-1-5-21-8-" + random.nextInt(3)};
      builder.lists(dn(ACCOUNTS + random.nextInt(GROUPS)), listed[random.nextInt(3)]);
    }
    return builder.build(names);
  }

  private void object(
      TreeBuilder builder, String dn, String kind, String sid, List<String> earlier) {
    Optional<Descriptor> list =
        random.nextInt(12) == 0 ? Optional.empty() : Optional.of(descriptor());
    builder.add(new TreeBuilder.Row(dn, dn, kind, list, sid, dn, earlier, false));
  }

  private String sid(Random from) {
    return DOMAIN + "-" + (1000 + from.nextInt(ACCOUNTS + GROUPS + 1));
  }

  private Descriptor descriptor() {
    List<Ace> entries = new ArrayList<>();
    for (int i = random.nextInt(5); i > 0; i--) {
      entries.add(entry());
    }
    return new Descriptor(
        0,
        random.nextInt(3) == 0 ? Optional.empty() : Optional.of(sid(random)),
        Optional.empty(),
        random.nextInt(15) == 0 ? Optional.empty() : Optional.of(entries),
        Optional.empty());
  }

  private Ace entry() {
    AceType[] types = {
      AceType.ALLOW,
      AceType.ALLOW,
      AceType.ALLOW,
      AceType.DENY,
      AceType.ALLOW_CONDITIONAL,
      AceType.DENY_CONDITIONAL,
      AceType.UNKNOWN
    };
    AceType[] ofParts = {
      AceType.ALLOW_OBJECT, AceType.DENY_OBJECT, AceType.ALLOW_CONDITIONAL_OBJECT
    };
    boolean part = random.nextInt(3) == 0;
    AceType type =
        part
            ? ofParts[random.nextInt(random.nextInt(4) == 0 ? 3 : 2)]
            : types[random.nextInt(random.nextInt(5) == 0 ? types.length : 4)];
    int mask = random.nextInt(3) == 0 ? DsRights.ALL : random.nextInt(DsRights.ALL + 1);
    int flags = random.nextInt(5) == 0 ? Ace.BELOW_ONLY | Ace.CHILDREN : 0;
    String trustee =
        switch (random.nextInt(12)) {
          case 0 -> WellKnown.SELF;
          case 1 -> WellKnown.AUTHENTICATED;
          case 2 -> WellKnown.OWNER_RIGHTS;
          case 3 -> STRANGER;
          case 4 -> "S-1-5-21-8-" + random.nextInt(3);
          default -> sid(random);
        };
    Ace ace = Ace.of(type, flags, mask, type == AceType.UNKNOWN ? "" : trustee);
    return part ? ace.on(Optional.of(NAMED[random.nextInt(NAMED.length)]), Optional.empty()) : ace;
  }

  private static AdminAction action(String id, List<String> on, Requirement need) {
    return new AdminAction(id, id, on, need, 1);
  }

  private static List<AdminAction> actions() {
    Requirement member = new Requirement.Attribute(DsRights.WRITE_PROPERTY, "member");
    Requirement delete = new Requirement.Simple(DsRights.DELETE);
    Requirement above =
        new Requirement.At(
            Requirement.Where.PARENT, new Requirement.Child(DsRights.DELETE_CHILD, ""));
    return List.of(
        action("edit", List.of("group"), member),
        action("reset", List.of("user"), new Requirement.Control("reset")),
        action("delete", List.of(), new Requirement.Any(List.of(delete, above))),
        action("permissions", List.of(), new Requirement.Simple(DsRights.WRITE_DAC)),
        action("create", List.of("unit"), new Requirement.Child(DsRights.CREATE_CHILD, "user")),
        action("both", List.of(), new Requirement.All(List.of(member, delete))),
        action("everything", List.of(), new Requirement.Simple(DsRights.ALL)),
        action("secrets", List.of("user"), new Requirement.Confidential()),
        action("unheard", List.of(), new Requirement.Control("unheard-of")));
  }

  /** The SIDs of what somebody counts as: his own, from earlier, of groups, of everybody. */
  Set<String> sids(Set<Integer> subjects) {
    Set<String> own = new TreeSet<>();
    for (int s : subjects) {
      if (s < ACCOUNTS + GROUPS) {
        own.add(sids.get(s));
        own.addAll(tree.history(object(s)));
      } else {
        own.add(WellKnown.AUTHENTICATED);
      }
    }
    own.remove("");
    return new HashSet<>(own);
  }

  /**
   * Whether nobody knows who counts as a trustee: nobody has the SID, and not all of its domain
   * were read.
   */
  boolean isStranger(String sid) {
    boolean borne = sids.contains(sid);
    for (int object = 0; object < tree.size(); object++) {
      borne |= tree.history(object).contains(sid);
    }
    boolean whole = sid.startsWith(DOMAIN + "-") && !sids.contains("");
    return sid.startsWith("S-1-5-21-") && !borne && !whole;
  }

  /** The object that a subject is. */
  int object(int subject) {
    return tree.findForm(dn(subject));
  }
}
