package org.sobercompass.cli;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.sobercompass.core.access.Words;
import org.sobercompass.core.crosswalk.Match;
import org.sobercompass.core.crosswalk.Matched;
import org.sobercompass.core.crosswalk.Matches;
import org.sobercompass.core.crosswalk.Nature;
import org.sobercompass.core.crosswalk.NewNames;
import org.sobercompass.core.crosswalk.Sureness;
import org.sobercompass.core.facts.Facts;
import org.sobercompass.organization.Crosswalks;
import org.sobercompass.sources.crosswalk.CrosswalkSettings;
import org.sobercompass.sources.crosswalk.NewEntries;
import org.sobercompass.sources.disk.OwnFiles;

/** Accounts of persons and groups without a counterpart, still to be made on the other side. */
final class Making {
  private final Facts facts;
  private final Crosswalks crosswalks;
  private final CrosswalkSettings settings;
  private final Matched matched;

  Making(Facts facts, Crosswalks crosswalks, CrosswalkSettings settings, Matched matched) {
    this.facts = facts;
    this.crosswalks = crosswalks;
    this.settings = settings;
    this.matched = matched;
  }

  /**
   * Writes change records of them.
   *
   * @return what is to be told of it, a line each
   */
  List<String> write(Path file) {
    CrosswalkSettings.New fresh = settings.fresh();
    if (fresh.accounts().isEmpty() && fresh.groups().isEmpty()) {
      throw new UsageException(
          "compass.yaml does not say where; expected, in the crosswalk: new: {accounts: DN,"
              + " groups: DN, login: \"{given}.{last}\"}");
    }
    NewNames names = new NewNames(facts, settings.plan().to().directory(), fresh.login());
    List<NewNames.Made> accounts =
        fresh.accounts().isEmpty() ? List.of() : names.accounts(persons());
    String prefix = settings.plan().strip().stream().findFirst().orElse("");
    List<NewNames.Made> groups =
        fresh.groups().isEmpty() ? List.of() : names.groups(without(matched.groups()), prefix);
    Map<Integer, String> made = new HashMap<>();
    accounts.forEach(a -> made.put(a.from(), "uid=" + a.login() + "," + fresh.accounts()));
    Map<Integer, List<String>> members = new HashMap<>();
    groups.forEach(group -> members.put(group.from(), crosswalks.members(group.from(), made)));
    NewEntries entries = new NewEntries(facts);
    String text = accounts.isEmpty() ? "" : entries.accounts(accounts, fresh.accounts());
    text += groups.isEmpty() ? "" : entries.groups(groups, fresh.groups(), members);
    OwnFiles.write(file, text);
    List<String> told = new ArrayList<>(leftOut());
    clashes(accounts, told);
    clashes(groups, told);
    long filled = members.values().stream().filter(all -> !all.isEmpty()).count();
    told.add(
        "Written: "
            + file
            + ", "
            + accounts.size()
            + (accounts.size() == 1 ? " account and " : " accounts and ")
            + filled
            + (filled == 1 ? " group" : " groups")
            + " to be created, as LDIF change records; sober preview "
            + file
            + " shows what they get. When they are created and read, match again");
    return told;
  }

  private List<Integer> persons() {
    return without(matched.accounts()).stream()
        .filter(account -> crosswalks.nature(account) == Nature.PERSON)
        .filter(account -> !facts.is(account, Facts.DISABLED))
        .filter(account -> !isTaken(account))
        .toList();
  }

  private List<String> leftOut() {
    return without(matched.accounts()).stream()
        .filter(this::isTaken)
        .map(
            account ->
                Words.subject(facts, account)
                    + " is left out: whom it is like is another's counterpart, so it may be a"
                    + " second account of the same person")
        .toList();
  }

  private static void clashes(List<NewNames.Made> made, List<String> told) {
    for (NewNames.Made one : made) {
      if (!one.clash().isEmpty()) {
        told.add(one.clash() + " is taken there, so " + one.login() + " is proposed");
      }
    }
  }

  private boolean isTaken(int account) {
    return matched
        .of(account)
        .flatMap(Match::nearest)
        .filter(nearest -> nearest.why() == Match.WhyNot.TAKEN)
        .isPresent();
  }

  private static List<Integer> without(Matches matches) {
    return matches.all().stream()
        .filter(match -> match.sure() == Sureness.NONE)
        .map(Match::from)
        .toList();
  }
}
