package org.sobercompass.sources.live;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.sobercompass.core.filter.Matching;
import org.sobercompass.sources.directory.DirectorySchema;

/**
 * What a directory was found to hold, and the settings that fit it.
 *
 * @param access how it was asked
 * @param root what it says of itself
 * @param identity as whom the server knew us
 * @param looked how many entries were looked at
 * @param all whether these are all there are
 * @param kind the word for its kind: {@code standard}, {@code posix} or {@code ad}
 * @param accounts how many accounts, groups and organizational units were met
 * @param bases the least set of bases that holds them
 * @param settings each setting with what speaks for it
 * @param schema the schema it publishes; empty when it may not be read
 * @param hidden how many groups must list members and showed none: they were withheld
 */
public record SettingsProposal(
    LdapAccess access,
    RootEntry root,
    String identity,
    int looked,
    boolean all,
    String kind,
    Counts accounts,
    Bases bases,
    List<Setting> settings,
    Optional<DirectorySchema> schema,
    int hidden) {

  /** How many entries of each sort. */
  public record Counts(int accounts, int groups, int units, int others) {}

  /** Where they stand. */
  public record Bases(List<String> accounts, List<String> groups) {}

  /**
   * One setting.
   *
   * @param name what it is for, in words
   * @param value what is proposed
   * @param entries how many entries it would bring in, or bear it
   * @param of out of how many
   * @param unique whether no two entries have the same value
   * @param example a value as it stands
   * @param others what else would do, with how often it is filled
   */
  public record Setting(
      String name,
      String value,
      int entries,
      int of,
      boolean unique,
      String example,
      List<String> others) {}

  /** How values of the proposed attribute compare, where the schema says so. */
  public Optional<Matching> matching(Setting setting) {
    return schema.flatMap(s -> s.rules().of(setting.value().toLowerCase(Locale.ROOT)));
  }

  /** The setting with this name. */
  public Optional<Setting> setting(String name) {
    return settings.stream().filter(s -> s.name().equals(name)).findFirst();
  }
}
