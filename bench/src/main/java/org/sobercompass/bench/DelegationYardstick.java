package org.sobercompass.bench;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.sobercompass.core.access.AccessModel;
import org.sobercompass.core.admin.Administration;
import org.sobercompass.core.admin.Console;
import org.sobercompass.core.admin.NamedPowers;
import org.sobercompass.core.admin.Powers;
import org.sobercompass.core.admin.Reach;
import org.sobercompass.core.audit.Advice;
import org.sobercompass.core.audit.Findings;
import org.sobercompass.core.delegation.AdminAction;
import org.sobercompass.core.delegation.Delegations;
import org.sobercompass.core.delegation.DirectoryTree;
import org.sobercompass.core.delegation.DsNames;
import org.sobercompass.core.delegation.Origin;
import org.sobercompass.core.delegation.Origins;
import org.sobercompass.core.delegation.TreeBuilder;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.AceType;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.DsRights;
import org.sobercompass.core.descriptor.Inheritance;
import org.sobercompass.core.descriptor.WellKnown;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.facts.FactsBuilder;
import org.sobercompass.core.facts.FactsSource;
import org.sobercompass.core.facts.SubjectKind;
import org.sobercompass.core.facts.SubjectRow;
import org.sobercompass.core.facts.Via;
import org.sobercompass.core.findings.Assessment;
import org.sobercompass.core.findings.Finding;
import org.sobercompass.core.findings.FindingKind;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.sources.delegation.CatalogueReader;
import org.sobercompass.sources.delegation.DelegatedSystems;

/**
 * Measures delegation over a made-up directory with access control lists: {@code
 * DelegationYardstick [OBJECTS]}, a tenth of which are accounts. Some 5,000 distinct lists; lists
 * are inherited as a directory does.
 */
public final class DelegationYardstick {
  private static final String DOMAIN = "S-1-5-21-11-22-33";
  private static final int UNITS = 1_000;
  private static final int SPECIAL = 4_000;

  private final Random random = new Random(4);
  private final int objects;
  private final int accounts;
  private final int groups;
  private final FactsBuilder facts;
  private final FactsSource source;
  private final TreeBuilder tree = new TreeBuilder("main");
  private final DsNames names = new DsNames();

  private DelegationYardstick(int objects) {
    this.objects = objects;
    this.accounts = objects / 10;
    this.groups = objects / 50;
    this.facts = new FactsBuilder(List.of(), dn -> dn, new Problems());
    this.source = facts.source("main");
  }

  /** Runs it. */
  public static void main(String[] args) {
    new DelegationYardstick(args.length > 0 ? Integer.parseInt(args[0]) : 1_000_000).run();
  }

  private void run() {
    long begin = System.nanoTime();
    List<AdminAction> actions =
        CatalogueReader.read(Optional.empty(), Optional.empty(), new Problems());
    published();
    fill();
    Facts frozen = facts.build();
    DirectoryTree built = tree.build(names);
    AccessModel model =
        AccessModel.of(frozen, List.of(), java.time.Instant.EPOCH, Optional.empty());
    Powers powers =
        DelegatedSystems.powers(
            model,
            new Administration(actions, List.of(), List.of(), List.of(), Console.ANY, List.of()),
            List.of(built));
    told("made " + built.size() + " objects, " + built.descriptors() + " lists", begin);
    for (int run = 0; run < 3; run++) {
      listAll(built, actions);
      who(powers, built, actions);
      reach(powers);
      findings(model, powers);
    }
    Runtime runtime = Runtime.getRuntime();
    System.gc();
    long used = runtime.totalMemory() - runtime.freeMemory();
    System.out.println("memory in use after all: " + (used >> 20) + " MiB");
  }

  private static void told(String what, long since) {
    System.out.printf("%-60s %8.1f ms%n", what, (System.nanoTime() - since) / 1e6);
  }

  private void listAll(DirectoryTree built, List<AdminAction> actions) {
    long begin = System.nanoTime();
    Delegations lister = new Delegations(built, new Origins(built, Optional.empty()), actions);
    long lines = 0;
    for (int object = 0; object < built.size(); object++) {
      lines += lister.on(object, EnumSet.of(Origin.ADDED, Origin.CLAIMED)).size();
    }
    told("all delegations listed: " + lines, begin);
  }

  /** All findings, and the least removals with their effects for the first of each kind. */
  private void findings(AccessModel model, Powers powers) {
    Assessment plain = Assessment.of(model, List.of());
    Assessment assessment =
        new Assessment(
            model,
            plain.rules(),
            plain.persons(),
            powers,
            plain.owned(),
            plain.readers(),
            plain.accepted());
    long begin = System.nanoTime();
    List<Finding> all = Findings.of(assessment);
    Map<FindingKind, Finding> first = new EnumMap<>(FindingKind.class);
    all.forEach(finding -> first.putIfAbsent(finding.kind(), finding));
    told("all findings: " + all.size() + " of " + first.size() + " kinds", begin);
    first.forEach(
        (kind, finding) -> {
          long since = System.nanoTime();
          Advice advice = Advice.of(assessment, finding);
          if (!advice.changes().isEmpty()) {
            int acts = advice.acts().ends().size();
            told("  least removals, " + kind.id() + ": " + acts + " acts end", since);
          }
        });
  }

  private void who(Powers powers, DirectoryTree built, List<AdminAction> actions) {
    AdminAction reset =
        actions.stream().filter(a -> a.id().equals("set-password")).findFirst().orElseThrow();
    int asked = 20;
    long begin = System.nanoTime();
    long found = 0;
    for (int i = 0; i < asked; i++) {
      BitSet who = powers.who(reset, powers.thing(i * (accounts / asked)), Optional.empty()).yes();
      found += who.cardinality();
    }
    double each = (System.nanoTime() - begin) / 1e6 / asked;
    System.out.printf("%-60s %8.2f ms each%n", "who can act on one: " + found / asked, each);
  }

  private static void reach(Powers powers) {
    long begin = System.nanoTime();
    int within = 0;
    for (var power : NamedPowers.of(powers)) {
      within += new Reach(powers, power).answer().within().cardinality();
    }
    told("within reach of the directory: " + within, begin);
  }

  private void published() {
    // The identifiers of the classes and rights that the lists here name.
    names.add(new DsNames.ObjectClass("user", id(1), "", Optional.of(usual())));
    names.add(new DsNames.ObjectClass("group", id(2), "", Optional.of(usual())));
    names.add(new DsNames.ObjectClass("organizationalUnit", id(3), "", Optional.of(usual())));
    names.add(new DsNames.AttributeType("member", id(4), Optional.empty(), false));
    names.add(
        new DsNames.ControlRight(
            "User-Force-Change-Password", "set a password", id(5), DsRights.CONTROL_ACCESS));
  }

  private static java.util.UUID id(int number) {
    return new java.util.UUID(number, number);
  }

  private static String sid(int number) {
    return DOMAIN + "-" + (1000 + number);
  }

  private static Descriptor list(List<Ace> entries) {
    return new Descriptor(
        0x8404, Optional.of(sid(0)), Optional.of(sid(0)), Optional.of(entries), Optional.empty());
  }

  private static Descriptor usual() {
    return list(
        List.of(
            Ace.of(AceType.ALLOW, 0, DsRights.ALL, sid(0)),
            Ace.of(AceType.ALLOW, 0, DsRights.ALL, WellKnown.SYSTEM),
            Ace.of(AceType.ALLOW, 0, DsRights.READ_CONTROL, WellKnown.AUTHENTICATED)));
  }

  private List<Ace> delegated() {
    List<Ace> entries = new ArrayList<>();
    for (int i = 0; i < 2; i++) {
      String trustee = sid(accounts + random.nextInt(groups));
      entries.add(
          Ace.of(
                  AceType.ALLOW_OBJECT,
                  Ace.CHILDREN | Ace.BELOW_ONLY,
                  random.nextBoolean() ? DsRights.CONTROL_ACCESS : DsRights.WRITE_PROPERTY,
                  trustee)
              .on(Optional.of(id(random.nextBoolean() ? 5 : 4)), Optional.of(id(1 + i))));
    }
    return entries;
  }

  private Descriptor below(Descriptor above, int kind, List<Ace> own) {
    List<Ace> entries = new ArrayList<>(own);
    entries.addAll(usual().entries());
    entries.addAll(
        Inheritance.inherited(above, id(kind), Optional.of(sid(0)), Optional.of(sid(0))));
    return list(entries);
  }

  private void fill() {
    Descriptor top = list(new ArrayList<>(usual().entries()));
    add("dc=x", "organizationalUnit", top, "", -1);
    List<Descriptor> units = new ArrayList<>();
    for (int u = 0; u < UNITS; u++) {
      Descriptor unit = below(top, 3, delegated());
      units.add(unit);
      add("ou=u" + u + ",dc=x", "organizationalUnit", unit, "", -1);
    }
    List<Descriptor> ofUser = units.stream().map(d -> below(d, 1, List.of())).toList();
    List<Descriptor> ofGroup = units.stream().map(d -> below(d, 2, List.of())).toList();
    List<Descriptor> ofOther = units.stream().map(d -> below(d, 3, List.of())).toList();
    int special = Math.max(1, objects / SPECIAL * 2);
    int[] rows = new int[accounts + groups];
    for (int i = 0; i < objects - UNITS - 1; i++) {
      int unit = random.nextInt(UNITS);
      String dn = "cn=o" + i + ",ou=u" + unit + ",dc=x";
      boolean isAccount = i < accounts;
      boolean isGroup = !isAccount && i < accounts + groups;
      int kind = isAccount ? 1 : isGroup ? 2 : 3;
      Descriptor descriptor =
          i % special == 7
              ? below(units.get(unit), kind, delegated())
              : (isAccount ? ofUser : isGroup ? ofGroup : ofOther).get(unit);
      String name = isAccount ? "user" : isGroup ? "group" : "organizationalUnit";
      int row = isAccount || isGroup ? subject(dn, isAccount, i) : -1;
      if (row >= 0) {
        rows[i] = row;
      }
      add(dn, name, descriptor, row >= 0 ? sid(i) : "", i);
    }
    for (int g = 0; g < groups; g++) {
      for (int m = 0; m < 30; m++) {
        int member =
            random.nextInt(12) == 0 ? accounts + random.nextInt(groups) : random.nextInt(accounts);
        String unit = "o" + member;
        source.refer(rows[accounts + g], Via.MEMBER, FactsBuilder.Space.ID, unit);
      }
    }
  }

  private int subject(String dn, boolean account, int number) {
    int row =
        source.add(
            new SubjectRow(
                account ? SubjectKind.ACCOUNT : SubjectKind.GROUP,
                String.format("%08d", number),
                dn,
                dn,
                "o" + number,
                "",
                "",
                0,
                Facts.NEVER));
    source.name(row, FactsBuilder.Space.ID, "o" + number);
    return row;
  }

  private void add(String dn, String kind, Descriptor descriptor, String sid, int number) {
    tree.add(
        new TreeBuilder.Row(
            dn, dn, kind, Optional.of(descriptor), sid, "o" + number, List.of(), false));
  }
}
