package org.sobercompass.report.page;

import java.util.List;
import java.util.Optional;

/**
 * One section of a page. What is empty is not shown.
 *
 * @param id unique in the page; links lead to it
 * @param title what it is about
 * @param words what is to be said before the rest: the answer, how to read it
 * @param pictures drawings
 * @param findings findings in full
 * @param tables answers as tables
 * @param matrix accounts by roles
 * @param index what a search also looks through though no table shows it; see {@link NameList}
 */
public record Section(
    String id,
    String title,
    List<String> words,
    List<Picture> pictures,
    Optional<FindingList> findings,
    List<PageTable> tables,
    Optional<Matrix> matrix,
    Optional<NameList> index) {
  /** Copies. */
  public Section {
    words = List.copyOf(words);
    pictures = List.copyOf(pictures);
    tables = List.copyOf(tables);
  }

  /** A drawing with what it shows. */
  public record Picture(String caption, String svg) {}

  /** A section with nothing but a title. */
  static Section of(String id, String title) {
    return new Section(
        id,
        title,
        List.of(),
        List.of(),
        Optional.empty(),
        List.of(),
        Optional.empty(),
        Optional.empty());
  }

  Section saying(List<String> more) {
    return new Section(id, title, more, pictures, findings, tables, matrix, index);
  }

  Section drawn(List<Picture> more) {
    return new Section(id, title, words, more, findings, tables, matrix, index);
  }

  Section with(FindingList list) {
    return new Section(id, title, words, pictures, Optional.of(list), tables, matrix, index);
  }

  Section with(List<PageTable> more) {
    return new Section(id, title, words, pictures, findings, more, matrix, index);
  }

  Section with(Matrix roles) {
    return new Section(id, title, words, pictures, findings, tables, Optional.of(roles), index);
  }

  Section with(NameList names) {
    return new Section(id, title, words, pictures, findings, tables, matrix, Optional.of(names));
  }
}
