package org.sobercompass.core.facts;

import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.ToLongFunction;
import org.sobercompass.core.store.IntList;
import org.sobercompass.core.store.IntRows;
import org.sobercompass.core.store.Texts;

/**
 * Facts parted by accounts: groups, units and all that is said of them are few and go everywhere
 * (the frame); accounts are many and may stand in any number of parts. Answers about an account are
 * the same in its part as in the whole, since they depend on nobody else.
 */
public final class FactsParts {
  private FactsParts() {}

  /** The facts without their accounts. */
  public static Facts frame(Facts facts) {
    return new Joined(facts, facts.accounts(), List.of()).facts();
  }

  /**
   * A frame with some accounts.
   *
   * @param frame facts without accounts
   * @param accounts rows in ascending order of {@link AccountRow#number()}; the first becomes
   *     account 0
   * @throws IllegalArgumentException when they are not in that order, or of a directory that the
   *     frame does not have
   */
  public static Facts with(Facts frame, List<AccountRow> accounts) {
    for (int i = 1; i < accounts.size(); i++) {
      if (accounts.get(i - 1).number() >= accounts.get(i).number()) {
        throw new IllegalArgumentException("accounts must ascend: " + accounts.get(i).number());
      }
    }
    return new Joined(frame, frame.accounts(), accounts).facts();
  }

  static AccountRow row(Facts facts, int account) {
    Facts.Arrays a = facts.arrays();
    int[] groups = a.up().row(account);
    for (int i = 0; i < groups.length; i++) {
      groups[i] -= facts.firstGroup();
    }
    Map<String, List<String>> values = new TreeMap<>();
    a.columns()
        .forEach(
            (name, column) -> {
              List<String> own = column.values(account);
              if (!own.isEmpty()) {
                values.put(name, own);
              }
            });
    int unit = facts.container(account);
    return new AccountRow(
        account,
        facts.source(account),
        texts(a).stream().map(texts -> texts.get(account)).toList(),
        a.flags()[account],
        a.expires()[account],
        a.passwordEnds()[account],
        a.lockedUntil()[account],
        unit < 0 ? -1 : unit - facts.firstUnit(),
        groups,
        Arrays.copyOfRange(a.upVia(), a.up().start(account), a.up().end(account)),
        values);
  }

  private static List<Texts> texts(Facts.Arrays a) {
    return List.of(a.id(), a.dn(), a.dnForm(), a.login(), a.display(), a.mail());
  }

  /** Puts accounts before what follows the accounts of other facts. */
  private static final class Joined {
    private final Facts.Arrays of;
    private final Facts old;
    private final int skipped;
    private final List<AccountRow> rows;
    private final int accounts;
    private final int subjects;
    private final int shift;

    Joined(Facts old, int skipped, List<AccountRow> rows) {
      this.old = old;
      this.of = old.arrays();
      this.skipped = skipped;
      this.rows = rows;
      this.accounts = rows.size();
      this.shift = accounts - skipped;
      this.subjects = old.subjects() + shift;
    }

    Facts facts() {
      IntList target = new IntList();
      int[] offsets = new int[subjects + 1];
      byte[] via = up(target, offsets);
      IntRows up = new IntRows(offsets, target.toArray());
      Map<String, Column> columns = new TreeMap<>();
      of.columns().forEach((name, column) -> columns.put(name, column(name, column)));
      return new Facts(arrays(up, via, columns));
    }

    private Facts.Arrays arrays(IntRows up, byte[] via, Map<String, Column> columns) {
      return new Facts.Arrays(
          of.sources(),
          of.taken(),
          accounts,
          of.groups(),
          of.units(),
          source(),
          flags(),
          longs(of.expires(), AccountRow::expires),
          container(),
          texts(0),
          texts(1),
          texts(2),
          texts(3),
          texts(4),
          texts(5),
          new MembershipRows(up, via),
          dangling(),
          columns,
          of.problems(),
          of.completeness(),
          of.schemas(),
          of.logins(),
          of.hosts(),
          Arrays.stream(of.open()).map(group -> group + shift).toArray(),
          of.openVia(),
          longs(of.passwordEnds(), AccountRow::passwordEnds),
          longs(of.lockedUntil(), AccountRow::lockedUntil));
    }

    private byte[] up(IntList target, int[] offsets) {
      int rest = of.up().items() - of.up().start(skipped);
      byte[] via = new byte[rows.stream().mapToInt(row -> row.groups().length).sum() + rest];
      for (int a = 0; a < accounts; a++) {
        AccountRow row = rows.get(a);
        for (int i = 0; i < row.groups().length; i++) {
          via[target.size()] = row.vias()[i];
          target.add(row.groups()[i] + accounts);
        }
        offsets[a + 1] = target.size();
      }
      for (int s = skipped; s < old.subjects(); s++) {
        for (int at = of.up().start(s); at < of.up().end(s); at++) {
          via[target.size()] = of.upVia()[at];
          target.add(of.up().at(at) + shift);
        }
        offsets[s + shift + 1] = target.size();
      }
      return via;
    }

    private byte[] source() {
      byte[] source = new byte[subjects];
      for (int a = 0; a < accounts; a++) {
        int index = of.sources().indexOf(rows.get(a).source());
        if (index < 0) {
          throw new IllegalArgumentException("no directory " + rows.get(a).source());
        }
        source[a] = (byte) index;
      }
      System.arraycopy(of.source(), skipped, source, accounts, subjects - accounts);
      return source;
    }

    private byte[] flags() {
      byte[] flags = new byte[subjects];
      for (int a = 0; a < accounts; a++) {
        flags[a] = (byte) rows.get(a).flags();
      }
      System.arraycopy(of.flags(), skipped, flags, accounts, subjects - accounts);
      return flags;
    }

    private long[] longs(long[] old, ToLongFunction<AccountRow> of) {
      long[] all = new long[old.length + shift];
      for (int a = 0; a < accounts; a++) {
        all[a] = of.applyAsLong(rows.get(a));
      }
      System.arraycopy(old, skipped, all, accounts, all.length - accounts);
      return all;
    }

    private int[] container() {
      int[] container = new int[subjects];
      int firstUnit = subjects - of.units();
      for (int a = 0; a < accounts; a++) {
        container[a] = rows.get(a).unit() < 0 ? -1 : rows.get(a).unit() + firstUnit;
      }
      for (int s = accounts; s < subjects; s++) {
        int above = of.container()[s - shift];
        container[s] = above < 0 ? -1 : above + shift;
      }
      return container;
    }

    private Texts texts(int which) {
      Texts from = FactsParts.texts(of).get(which);
      Texts.Builder texts = Texts.builder(subjects);
      rows.forEach(row -> texts.add(row.texts().get(which)));
      for (int s = skipped; s < from.size(); s++) {
        texts.add(from.bytes(s));
      }
      return texts.build();
    }

    private Column column(String name, Column from) {
      Map<String, Integer> numbers = new HashMap<>();
      Texts.Builder dictionary = Texts.builder(64);
      IntList codes = new IntList();
      int[] offsets = new int[subjects + 1];
      for (int s = 0; s < subjects; s++) {
        List<String> values =
            s < accounts
                ? rows.get(s).values().getOrDefault(name, List.of())
                : from.values(s - shift);
        for (String value : values) {
          codes.add(numbers.computeIfAbsent(value, v -> dictionary.add(v)));
        }
        offsets[s + 1] = codes.size();
      }
      return new Column(new IntRows(offsets, codes.toArray()), dictionary.build());
    }

    /** Those of groups; an account whose primary group is missing stands in its own part. */
    private List<Dangling> dangling() {
      return of.dangling().stream()
          .filter(one -> one.subject() >= skipped)
          .map(one -> new Dangling(one.subject() + shift, one.via(), one.text()))
          .toList();
    }
  }
}
