package org.sobercompass.core.crosswalk;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.sobercompass.core.facts.Facts;

/**
 * Names for accounts and groups that are still to be made on the other side: by a pattern, none of
 * them taken there, each once. Not thread-safe.
 */
public final class NewNames {
  /** How login names are made where nobody says how. */
  public static final String USUAL = "{given}.{last}";

  private final Facts facts;
  private final String pattern;
  private final Set<String> taken = new HashSet<>();

  /**
   * One to be made.
   *
   * @param from the number of the account or group that it is for
   * @param login its name
   * @param given the given name of a person, as far as it is known; else empty
   * @param last the surname, or the whole name
   * @param clash the name that it would have by the pattern, where that is taken; else empty
   */
  public record Made(int from, String login, String given, String last, String clash) {}

  /**
   * Names in a directory.
   *
   * @param directory the other side
   * @param pattern of login names, with {@code {given}}, {@code {last}}, {@code {g}} (its first
   *     letter) and {@code {login}} (the old one)
   */
  public NewNames(Facts facts, String directory, String pattern) {
    this.facts = facts;
    this.pattern = pattern;
    for (int subject = 0; subject < facts.firstGroup() + facts.groups(); subject++) {
      if (facts.source(subject).equals(directory)) {
        taken.add(facts.login(subject).toLowerCase(Locale.ROOT));
      }
    }
  }

  /** Whether a pattern makes names that differ from person to person. */
  public static boolean isPattern(String text) {
    return text.matches("([^{}]|[{](given|last|g|login)[}])*[{](given|last|login)[}].*")
        && text.replaceAll("[{](given|last|g|login)[}]", "").matches("[A-Za-z0-9._-]*");
  }

  /** A name for each account, in order. */
  public List<Made> accounts(List<Integer> accounts) {
    List<Made> all = new ArrayList<>();
    for (int account : accounts) {
      String given = first(facts.values(account, "givenname"));
      String last = first(facts.values(account, "sn"));
      String label = facts.label(account);
      if (given.isEmpty() && label.indexOf(',') > 0) {
        given = label.substring(label.indexOf(',') + 1).strip();
      } else if (given.isEmpty() && label.indexOf(' ') > 0) {
        given = label.substring(0, label.lastIndexOf(' ')).strip();
      }
      if (last.isEmpty()) {
        last =
            label.indexOf(',') > 0
                ? label.substring(0, label.indexOf(',')).strip()
                : label.substring(label.lastIndexOf(' ') + 1);
      }
      String wanted =
          plain(
              pattern
                  .replace("{given}", given)
                  .replace("{g}", given.isEmpty() ? "" : given.substring(0, 1))
                  .replace("{last}", last)
                  .replace("{login}", facts.login(account)));
      String login = free(wanted);
      all.add(new Made(account, login, given, last, login.equals(wanted) ? "" : wanted));
    }
    return all;
  }

  /** The same name for each group, as far as it is free. */
  public List<Made> groups(List<Integer> groups, String prefix) {
    List<Made> all = new ArrayList<>();
    for (int group : groups) {
      String wanted = prefix + Crosswalk.called(facts, group);
      String login = free(wanted);
      all.add(new Made(group, login, "", wanted, login.equals(wanted) ? "" : wanted));
    }
    return all;
  }

  private static String first(List<String> values) {
    return values.isEmpty() ? "" : values.get(0);
  }

  private static String plain(String name) {
    return PersonName.plain(name).replaceAll("[^a-z0-9._-]+", "-").replaceAll("^[.-]+|[.-]+$", "");
  }

  private String free(String wanted) {
    String name = wanted;
    for (int number = 2; !taken.add(name.toLowerCase(Locale.ROOT)); number++) {
      name = wanted + number;
    }
    return name;
  }
}
