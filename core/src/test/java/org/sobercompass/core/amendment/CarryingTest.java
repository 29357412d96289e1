package org.sobercompass.core.amendment;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.sobercompass.core.amendment.LiveTarget.Outcome;
import org.sobercompass.core.amendment.LiveTarget.Result;

class CarryingTest {
  private static final Clock CLOCK =
      Clock.fixed(Instant.parse("2026-11-20T06:00:00Z"), ZoneOffset.UTC);

  /** The end of a process, at any point. */
  private static final class Killed extends Error {
    private static final long serialVersionUID = 1L;
  }

  /**
   * Groups with members, in memory; a process that uses it can be killed before or after a call.
   */
  private static final class Groups implements LiveTarget {
    final Map<String, Set<String>> members = new TreeMap<>();
    final Set<Integer> refused = new TreeSet<>();
    int calls;
    int killedAt = -1;
    boolean killedAfter;
    int lostAt = -1;

    @Override
    public String identity() {
      return "editor";
    }

    @Override
    public String reached() {
      return "memory";
    }

    @Override
    public Standing standing(AmendmentRecord record) {
      return Standing.all(
          record.differences().stream()
              .map(d -> Standing.of(d, members.getOrDefault(d.name(), Set.of()), String::equals))
              .toList());
    }

    @Override
    public String found(AmendmentRecord record) {
      return members.toString();
    }

    @Override
    public Result make(AmendmentRecord record) {
      int call = calls++;
      if (call == killedAt && !killedAfter) {
        throw new Killed();
      }
      if (call == lostAt) {
        return new Result(Outcome.LOST, "the connection ended");
      }
      if (standing(record) != Standing.BEFORE) {
        return new Result(Outcome.NOT_AS_COUNTED_ON, "");
      }
      if (refused.contains(record.number())) {
        return new Result(Outcome.REFUSED, "not allowed");
      }
      for (Difference d : record.differences()) {
        Set<String> now = members.computeIfAbsent(d.name(), n -> new TreeSet<>());
        now.removeAll(d.removed());
        now.addAll(d.added());
      }
      if (call == killedAt) {
        throw new Killed();
      }
      return Result.MADE;
    }

    @Override
    public void close() {
      // Nothing is held.
    }
  }

  /** A journal that outlives the process that writes it. */
  private static final class Disk implements Journal.Keeping {
    final List<Journal.Line> lines = new ArrayList<>();
    int keeps;
    int killedAt = -1;
    boolean killedAfter;

    @Override
    public void keep(List<Journal.Line> more) {
      int call = keeps++;
      if (call == killedAt && !killedAfter) {
        throw new Killed();
      }
      lines.addAll(more);
      if (call == killedAt) {
        throw new Killed();
      }
    }

    @Override
    public void force() {
      // What is kept is safe here.
    }

    Journal journal() {
      return new Journal(List.copyOf(lines), this);
    }
  }

  private static AmendmentRecord record(int number, String group, String leaves, String joins) {
    return new AmendmentRecord(
        number,
        "staff",
        group,
        "a change",
        List.of(
            new Difference(
                group,
                leaves.isEmpty() ? List.of() : List.of(leaves),
                joins.isEmpty() ? List.of() : List.of(joins))));
  }

  private static Work carryOut(Groups groups, Disk disk, List<AmendmentRecord> records) {
    return new Carrying(groups, disk.journal(), CLOCK, false, done -> {}).carryOut(records);
  }

  private static Work undo(Groups groups, Disk disk, List<AmendmentRecord> records) {
    return new Carrying(groups, disk.journal(), CLOCK, false, done -> {}).undo(records);
  }

  private static Map<String, Set<String>> copy(Map<String, Set<String>> from) {
    Map<String, Set<String>> copy = new TreeMap<>();
    from.forEach((name, values) -> copy.put(name, new TreeSet<>(values)));
    return copy;
  }

  @Test
  void whatIsMadeIsTakenBackAndNothingElse() {
    Groups groups = new Groups();
    groups.members.put("payers", new TreeSet<>(Set.of("ilse", "maren")));
    groups.members.put("clerks", new TreeSet<>());
    Map<String, Set<String>> before = copy(groups.members);
    Disk disk = new Disk();
    List<AmendmentRecord> records =
        List.of(record(1, "payers", "ilse", ""), record(2, "clerks", "", "ilse"));

    assertThat(carryOut(groups, disk, records)).isEqualTo(new Work(2, 2, 0, 0, List.of(), ""));
    assertThat(groups.members.get("payers")).containsExactly("maren");
    assertThat(carryOut(groups, disk, records).before()).isEqualTo(2);

    assertThat(undo(groups, disk, records).made()).isEqualTo(2);
    assertThat(groups.members).isEqualTo(before);
    assertThat(undo(groups, disk, records)).isEqualTo(new Work(2, 0, 2, 0, List.of(), ""));
    assertThat(carryOut(groups, disk, records).made()).as("again after the undo").isEqualTo(2);
  }

  @Test
  void whatWasSoAlreadyIsNotTakenBack() {
    Groups groups = new Groups();
    groups.members.put("clerks", new TreeSet<>(Set.of("ilse")));
    Disk disk = new Disk();
    List<AmendmentRecord> records = List.of(record(1, "clerks", "", "ilse"));

    assertThat(carryOut(groups, disk, records).wasSo()).isEqualTo(1);
    assertThat(undo(groups, disk, records).wasSo()).isEqualTo(1);
    assertThat(groups.members.get("clerks")).containsExactly("ilse");
  }

  @Test
  void whatSomebodyElseChangedIsLeftAloneAndTold() {
    Groups groups = new Groups();
    groups.members.put("flags", new TreeSet<>(Set.of("514")));
    Disk disk = new Disk();
    List<AmendmentRecord> records =
        List.of(record(1, "flags", "512", "546"), record(2, "clerks", "", "ilse"));

    Work stopped = carryOut(groups, disk, records);
    assertThat(stopped.failed()).hasSize(1);
    assertThat(stopped.failed().get(0).why()).contains("514");
    assertThat(stopped.left()).isEqualTo(1);
    assertThat(stopped.isWhole()).isFalse();
    assertThat(disk.journal().state(1)).isEqualTo(Journal.State.FAILED);
    assertThat(disk.journal().state(2)).as("not touched").isEqualTo(Journal.State.OPEN);

    Work on = new Carrying(groups, disk.journal(), CLOCK, true, done -> {}).carryOut(records);
    assertThat(on.made()).isEqualTo(1);
    assertThat(groups.members.get("flags")).containsExactly("514");
    assertThat(undo(groups, disk, records).made()).as("only what was made").isEqualTo(1);
  }

  @Test
  void whatCannotBeTakenBackAnyMoreIsTold() {
    Groups groups = new Groups();
    groups.members.put("flags", new TreeSet<>(Set.of("512")));
    Disk disk = new Disk();
    List<AmendmentRecord> records = List.of(record(1, "flags", "512", "514"));
    carryOut(groups, disk, records);
    groups.members.put("flags", new TreeSet<>(Set.of("66050")));

    Work undone = undo(groups, disk, records);
    assertThat(undone.failed()).hasSize(1);
    assertThat(disk.journal().state(1)).isEqualTo(Journal.State.NOT_UNDONE);
    assertThat(groups.members.get("flags")).containsExactly("66050");

    assertThat(carryOut(groups, disk, records).failed()).hasSize(1);
    assertThat(disk.journal().state(1)).as("still ours").isEqualTo(Journal.State.NOT_UNDONE);

    groups.members.put("flags", new TreeSet<>(Set.of("514")));
    assertThat(undo(groups, disk, records).made()).as("once it is there again").isEqualTo(1);
    assertThat(groups.members.get("flags")).containsExactly("512");
  }

  @Test
  void aRefusedRecordStopsAndALostConnectionIsGoneOnWith() {
    Groups groups = new Groups();
    groups.refused.add(2);
    Disk disk = new Disk();
    List<AmendmentRecord> records =
        List.of(record(1, "a", "", "ilse"), record(2, "b", "", "ilse"), record(3, "c", "", "ilse"));
    Work refused = carryOut(groups, disk, records);
    assertThat(refused.made()).isEqualTo(1);
    assertThat(refused.failed().get(0).why()).isEqualTo("not allowed");

    groups.refused.clear();
    groups.lostAt = groups.calls;
    Work lost = carryOut(groups, disk, records);
    assertThat(lost.stopped()).isEqualTo("the connection ended");
    assertThat(disk.journal().state(2)).isEqualTo(Journal.State.BEGUN);
    assertThat(disk.journal().state(3)).isEqualTo(Journal.State.OPEN);
    assertThat(carryOut(groups, disk, records).isWhole()).isTrue();
    assertThat(groups.members.keySet()).containsExactly("a", "b", "c");
  }

  /**
   * Killed at every call to the system and to the journal, before and after it took effect, while
   * carrying out or taking back, and once more while going on: in the end everything is made, or
   * everything is as it was.
   */
  @Test
  void killedAnywhereItGoesOnAndEndsWhole() {
    Random random = new Random(17);
    int kills = 0;
    for (int round = 0; round < 2000; round++) {
      Groups groups = new Groups();
      List<AmendmentRecord> records = random(random, groups);
      Map<String, Set<String>> before = copy(groups.members);
      Disk disk = new Disk();
      boolean back = random.nextBoolean();
      if (back) {
        carryOut(groups, disk, records);
      }
      for (int times = random.nextInt(3); times >= 0; times--) {
        arm(random, groups, disk, records.size());
        try {
          if (back) {
            undo(groups, disk, records);
          } else {
            carryOut(groups, disk, records);
          }
        } catch (Killed e) {
          kills++;
        }
        groups.killedAt = -1;
        disk.killedAt = -1;
      }
      if (!back) {
        assertThat(carryOut(groups, disk, records).isWhole()).isTrue();
        for (AmendmentRecord record : records) {
          assertThat(groups.standing(record)).isEqualTo(Standing.AFTER);
        }
      }
      assertThat(undo(groups, disk, records).isWhole()).isTrue();
      groups.members.values().removeIf(Set::isEmpty);
      before.values().removeIf(Set::isEmpty);
      assertThat(groups.members).as("round " + round).isEqualTo(before);
    }
    assertThat(kills).isGreaterThan(2000);
  }

  private static List<AmendmentRecord> random(Random random, Groups groups) {
    List<AmendmentRecord> records = new ArrayList<>();
    int size = 1 + random.nextInt(150);
    for (int number = 1; number <= size; number++) {
      boolean leaves = random.nextBoolean();
      String who = "member" + number;
      String group = "group" + random.nextInt(5);
      if (leaves) {
        groups.members.computeIfAbsent(group, g -> new TreeSet<>()).add(who);
      }
      records.add(record(number, group, leaves ? who : "", leaves ? "" : who));
    }
    return records;
  }

  private static void arm(Random random, Groups groups, Disk disk, int size) {
    if (random.nextBoolean()) {
      groups.killedAt = groups.calls + random.nextInt(size);
      groups.killedAfter = random.nextBoolean();
    } else {
      disk.killedAt = disk.keeps + random.nextInt(size + 2);
      disk.killedAfter = random.nextBoolean();
    }
  }
}
