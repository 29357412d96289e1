package org.sobercompass.core.system.roles;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.IntStream;
import org.sobercompass.core.key.Key;
import org.sobercompass.core.system.Rights;

/**
 * The rights of an application: on each area its ordered levels, lowest first, then its actions.
 * Right {@code area * slots + slot}. Frozen and thread-safe.
 */
public final class RoleRights implements Rights {
  /** The word that gives nothing on an area. */
  public static final String NONE = "none";

  /** Stands for every area. */
  public static final String EVERY_AREA = "*";

  private final List<String> areas;
  private final List<String> levels;
  private final List<String> actions;
  private final int[] parent;
  private final Map<String, Integer> areaByPath = new HashMap<>();
  private final List<String> texts = new ArrayList<>();
  private final Map<String, Integer> numbers = new HashMap<>();
  private final int[] byText;

  /**
   * Numbers the rights.
   *
   * @param areas paths with slashes, each parent before its children
   * @param levels lowest first
   * @param actions in any order
   */
  public RoleRights(List<String> areas, List<String> levels, List<String> actions) {
    this.areas = List.copyOf(areas);
    this.levels = List.copyOf(levels);
    this.actions = List.copyOf(actions);
    parent = new int[areas.size()];
    for (int area = 0; area < areas.size(); area++) {
      String path = areas.get(area);
      int slash = path.lastIndexOf('/');
      parent[area] = slash < 0 ? -1 : areaByPath.getOrDefault(path.substring(0, slash), -1);
      areaByPath.put(path, area);
      for (int slot = 0; slot < slots(); slot++) {
        numbers.put(path + ":" + word(slot), texts.size());
        texts.add(path + ":" + word(slot));
      }
    }
    byText =
        IntStream.range(0, texts.size())
            .boxed()
            .sorted((a, b) -> Key.compareUtf8(texts.get(a), texts.get(b)))
            .mapToInt(Integer::intValue)
            .toArray();
  }

  /** Levels and actions together. */
  public int slots() {
    return levels.size() + actions.size();
  }

  /** How many of the slots are levels. */
  public int levels() {
    return levels.size();
  }

  /** The level or action of a slot. */
  public String word(int slot) {
    return slot < levels.size() ? levels.get(slot) : actions.get(slot - levels.size());
  }

  /** The slot of a level or action, or -1. */
  public int slot(String word) {
    int level = levels.indexOf(word);
    return level >= 0 || !actions.contains(word) ? level : levels.size() + actions.indexOf(word);
  }

  /** All levels and actions. */
  public List<String> vocabulary() {
    List<String> words = new ArrayList<>(levels);
    words.addAll(actions);
    return words;
  }

  /** All areas. */
  public List<String> areas() {
    return areas;
  }

  /** The number of an area, or -1. */
  public int area(String path) {
    return areaByPath.getOrDefault(path, -1);
  }

  /** The area above, or -1. */
  public int parent(int area) {
    return parent[area];
  }

  /** The right of a slot on an area. */
  public int right(int area, int slot) {
    return area * slots() + slot;
  }

  @Override
  public int size() {
    return texts.size();
  }

  @Override
  public String text(int right) {
    return texts.get(right);
  }

  @Override
  public Optional<Integer> find(String text) {
    return Optional.ofNullable(numbers.get(text));
  }

  @Override
  public List<String> texts() {
    return List.copyOf(texts);
  }

  @Override
  public int[] byText() {
    return byText;
  }

  @Override
  public List<Integer> contains(int right) {
    int slot = right % slots();
    List<Integer> lower = new ArrayList<>();
    for (int level = 0; slot < levels.size() && level < slot; level++) {
      lower.add(right - slot + level);
    }
    return lower;
  }

  @Override
  public boolean isStrongest(int right) {
    return right % slots() >= levels.size() - 1;
  }
}
