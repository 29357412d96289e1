package org.sobercompass.sources.live;

import com.unboundid.ldap.sdk.Entry;
import com.unboundid.util.Base64;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.sobercompass.core.amendment.Difference;
import org.sobercompass.core.descriptor.Ace;
import org.sobercompass.core.descriptor.Descriptor;
import org.sobercompass.core.descriptor.MalformedException;
import org.sobercompass.core.descriptor.Sddl;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.problem.Problems;
import org.sobercompass.core.proposal.Step;
import org.sobercompass.sources.Drafts;
import org.sobercompass.sources.SourceKind;
import org.sobercompass.sources.descriptor.DescriptorCodec;
import org.sobercompass.sources.directory.BinaryIds;
import org.sobercompass.sources.directory.DnForm;
import org.sobercompass.sources.directory.LdifSource;
import org.sobercompass.sources.directory.Listings;
import org.sobercompass.sources.text.TextFiles;

/**
 * Makes LDAP modifications of steps, from the entries as they were read: members, states of
 * accounts, lists of objects. Use once.
 */
final class LdapAmending {
  private final SourceKind.Wanted wanted;
  private final Drafts into;
  private final LdapAccounts accounts;
  private final Facts facts;
  private final Map<String, Optional<Entry>> entries = new HashMap<>();
  private final Set<Integer> folded = new TreeSet<>();
  private final Map<Key, Whole> wholes = new LinkedHashMap<>();
  private Optional<String> domain = Optional.empty();

  LdapAmending(SourceKind.Wanted wanted, Drafts into, boolean ad) {
    this.wanted = wanted;
    this.into = into;
    this.accounts = new LdapAccounts(ad);
    this.facts = wanted.facts();
  }

  /** Goes through the entries once, then makes a record of each step. */
  void make() {
    wanted.steps().forEach(wish -> entries.put(DnForm.of(place(wish.what())), Optional.empty()));
    for (SourceKind.Wish wish : wanted.steps()) {
      if (wish.what() instanceof Step.Primary primary) {
        primary
            .is()
            .flatMap(facts::find)
            .map(facts::dn)
            .ifPresent(dn -> entries.putIfAbsent(DnForm.of(dn), Optional.empty()));
      }
    }
    wanted.gone().forEach(gone -> entries.put(DnForm.of(gone.dn()), Optional.empty()));
    wanted.come().forEach(comes -> entries.put(DnForm.of(comes.dn()), Optional.empty()));
    SourceKind.Entries file = wanted.entries();
    Problems problems = new Problems();
    TextFiles.stream(
        file.path(),
        file.shown(),
        problems,
        in -> LdifSource.entries(in, file.shown(), new Problems(), this::take));
    problems.throwIfErrors();
    wanted.steps().forEach(this::presence);
    wanted.steps().stream()
        .filter(wish -> !folded.contains(wish.step()))
        .forEach(wish -> step(wish.step(), wish.what()));
    wholes.values().forEach(this::whole);
    lists();
  }

  /** An entry that is created or deleted, and the steps that are made with it. */
  private static final class Whole {
    final Step.Presence what;
    final Set<Integer> steps = new TreeSet<>();
    final List<Difference> members = new ArrayList<>();

    Whole(int number, Step.Presence what) {
      this.what = what;
      steps.add(number);
    }
  }

  /** Members that are put into what is created come with it. */
  private void presence(SourceKind.Wish wish) {
    if (wish.what() instanceof Step.Presence presence) {
      folded.add(wish.step());
      wholes.put(presence.subject(), new Whole(wish.step(), presence));
      if (presence.created()) {
        entries.put(DnForm.of(presence.dn()), Optional.of(LdapEntries.of(presence)));
      }
    }
    Whole into = wish.what() instanceof Step.Join join ? wholes.get(join.group()) : null;
    if (into != null && into.what.created() && isThere(((Step.Join) wish.what()).member(), into)) {
      Entry entry = LdapEntries.of(into.what);
      into.members.addAll(joins(entry, ((Step.Join) wish.what()).member()).stream().toList());
      into.steps.add(wish.step());
      folded.add(wish.step());
    }
  }

  /** Whether somebody is there before an entry is created. */
  private boolean isThere(Key member, Whole into) {
    Whole other = wholes.get(member);
    return other == null
        ? !facts.find(member).map(facts::isAbsent).orElse(true)
        : other.steps.iterator().next() < into.steps.iterator().next();
  }

  /** One record that creates or deletes an entry, as the steps before have made it. */
  private void whole(Whole whole) {
    String dn = whole.what.dn();
    // Steps that follow a creation have records of their own.
    Optional<Entry> there =
        whole.what.created()
            ? Optional.of(LdapEntries.of(whole.what))
            : entries.getOrDefault(DnForm.of(dn), Optional.empty());
    if (there.isEmpty()) {
      whole.steps.forEach(n -> into.byHand(n, "its entry is not in " + wanted.entries().shown()));
      return;
    }
    Entry entry = there.get();
    for (Difference difference : whole.members) {
      entry = LdapEntries.with(entry, difference);
    }
    if (whole.what.created() && Listings.hidesMembers(entry, Optional.empty())) {
      whole.steps.forEach(
          n ->
              into.byHand(
                  n, "a group of its object class has at least one member, and none joins it"));
      return;
    }
    List<String> text = List.of(LdapEntries.text(entry));
    Difference difference =
        whole.what.created()
            ? new Difference(LdapEntries.ENTRY, List.of(), text)
            : new Difference(LdapEntries.ENTRY, text, List.of());
    into.add(draft(whole.steps, entry, difference));
  }

  private Drafts.Draft draft(Set<Integer> steps, Entry entry, Difference difference) {
    return new Drafts.Draft(
        steps,
        wanted.directory(),
        LdapTargetKind.ID,
        entry.getDN(),
        LdapEntries.id(entry),
        List.of(difference));
  }

  private void take(Entry entry) {
    entries.computeIfPresent(DnForm.of(entry.getDN()), (dn, none) -> Optional.of(entry));
    byte[] sid = entry.getAttributeValueBytes("objectSid");
    if (domain.isEmpty() && sid != null && entry.hasObjectClass("domainDNS")) {
      domain = BinaryIds.sid(sid);
    }
  }

  /** Where the entry stands that a step changes; empty when it was not read. */
  private String place(Step.OfDirectory step) {
    return step instanceof Step.Presence presence
        ? presence.dn()
        : facts.find(step.entry()).map(facts::dn).orElse("");
  }

  private void step(int number, Step.OfDirectory step) {
    String dn = place(step);
    Optional<Entry> entry = entries.getOrDefault(DnForm.of(dn), Optional.empty());
    if (dn.isEmpty() || entry.isEmpty()) {
      into.byHand(number, "its entry is not in " + wanted.entries().shown());
      return;
    }
    List<Difference> differences =
        step instanceof Step.Join join
            ? joins(entry.get(), join.member()).stream().toList()
            : step instanceof Step.Leave leave
                ? leaves(entry.get(), leave.member())
                : accounts.of(step, entry.get(), this::number).stream().toList();
    Entry after = entry.get();
    for (Difference difference : differences) {
      into.add(draft(Set.of(number), entry.get(), difference));
      after = LdapEntries.with(after, difference);
    }
    entries.put(DnForm.of(dn), Optional.of(after));
    if (differences.isEmpty()) {
      into.byHand(number, accounts.why(step, dn));
    }
  }

  /** The number of a group, where its entry has one. */
  private Optional<String> number(Key group) {
    return facts
        .find(group)
        .map(facts::dn)
        .flatMap(dn -> entries.getOrDefault(DnForm.of(dn), Optional.empty()))
        .map(entry -> entry.getAttributeValue("gidNumber"));
  }

  /** What takes a member out of a group: the value in each attribute that lists it. */
  private List<Difference> leaves(Entry group, Key key) {
    int member = facts.find(key).orElse(-1);
    if (member < 0) {
      return List.of();
    }
    List<Difference> all = new ArrayList<>();
    for (String attribute : List.of("member", "uniqueMember")) {
      LdapAccounts.values(group, attribute).stream()
          .filter(value -> DnForm.of(value).equals(DnForm.of(facts.dn(member))))
          .forEach(value -> all.add(new Difference(attribute, List.of(value), List.of())));
    }
    String login = facts.login(member);
    if (LdapAccounts.values(group, "memberUid").contains(login)) {
      all.add(new Difference("memberUid", List.of(login), List.of()));
    }
    return all;
  }

  /** What puts a member into a group, by the attribute in which it lists others, or could. */
  private Optional<Difference> joins(Entry group, Key key) {
    int member = facts.find(key).orElse(-1);
    if (member < 0) {
      return Optional.empty();
    }
    boolean byLogin =
        group.hasObjectClass("posixGroup")
            && !group.hasObjectClass("groupOfNames")
            && !group.hasAttribute("member");
    String attribute =
        group.hasObjectClass("groupOfUniqueNames")
            ? "uniqueMember"
            : byLogin ? "memberUid" : "member";
    String value = byLogin ? facts.login(member) : facts.dn(member);
    return value.isEmpty()
        ? Optional.empty()
        : Optional.of(new Difference(attribute, List.of(), List.of(value)));
  }

  /** The lists of objects: all that goes from one list and comes into it does so at once. */
  private void lists() {
    Map<String, List<Drafts.Numbered>> byObject = new LinkedHashMap<>();
    wanted.gone().forEach(g -> byObject.computeIfAbsent(g.dn(), dn -> new ArrayList<>()).add(g));
    wanted.come().forEach(c -> byObject.computeIfAbsent(c.dn(), dn -> new ArrayList<>()).add(c));
    byObject.forEach(
        (dn, steps) -> {
          Optional<Entry> entry = entries.getOrDefault(DnForm.of(dn), Optional.empty());
          Optional<Descriptor> was = entry.flatMap(this::descriptor);
          if (was.isEmpty()) {
            steps.forEach(one -> into.byHand(one.step(), "the list of " + dn + " was not read"));
            return;
          }
          Difference difference =
              new Difference(
                  LdapTargetKind.LIST, List.of(text(was.get())), List.of(text(is(dn, was.get()))));
          into.add(draft(Drafts.steps(steps), entry.get(), difference));
        });
  }

  /** The list of an object as it is to be: what it hands on the directory itself hands on. */
  private Descriptor is(String dn, Descriptor was) {
    List<Ace> left = new ArrayList<>(was.entries());
    Set<Integer> numbers = new TreeSet<>();
    wanted.gone().stream().filter(g -> g.dn().equals(dn)).forEach(g -> numbers.add(-g.entry()));
    numbers.forEach(number -> left.remove(-number));
    Descriptor is = was.with(left);
    for (SourceKind.Comes comes : wanted.come()) {
      if (comes.dn().equals(dn)) {
        is = is.withMore(entry(comes.text()));
      }
    }
    return is;
  }

  /** What was laid over the model can be read. */
  private static Ace entry(String text) {
    try {
      return Sddl.readEntry(text, Optional.empty());
    } catch (MalformedException e) {
      throw new IllegalStateException(e);
    }
  }

  private static String text(Descriptor descriptor) {
    return Base64.encode(DescriptorCodec.write(descriptor));
  }

  private Optional<Descriptor> descriptor(Entry entry) {
    byte[] bytes = entry.getAttributeValueBytes(LdapTargetKind.LIST);
    if (bytes == null) {
      return Optional.empty();
    }
    try {
      String text = new String(bytes, StandardCharsets.UTF_8);
      boolean sddl = text.toUpperCase(Locale.ROOT).matches("(?s)[OGDS]:.*");
      return Optional.of(sddl ? Sddl.read(text, domain) : DescriptorCodec.read(bytes));
    } catch (MalformedException e) {
      return Optional.empty();
    }
  }
}
