package org.sobercompass.sources.database;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class SqlWordsTest {
  private static List<String> words(String text) {
    List<String> all = new ArrayList<>();
    SqlWords.statements(
        text,
        (words, line) -> {
          StringBuilder said = new StringBuilder(String.valueOf(line));
          while (!words.isEnd()) {
            said.append(' ').append(words.next());
          }
          all.add(said.toString());
        });
    return all;
  }

  @Test
  void namesKeepTheirCaseInQuotesOnlyAndWhatIsSaidAroundIsLeftOut() {
    assertThat(
            words(
                "GRANT /* all; */ Select ON \"Odd \"\"one\"\"; x\".T TO me; -- grant\n"
                    + "do $x$ begin; end; $x$;\n\nselect 'it''s; so'"))
        .containsExactly("1 grant select on Odd \"one\"; x . t to me", "2 do", "4 select");
  }

  @Test
  void aLongTextEndsNoStack() {
    String text = "insert into t values ('" + "it''s ".repeat(200_000) + "'); grant r to a";
    assertThat(words(text)).hasSize(2).last().isEqualTo("1 grant r to a");
    assertThat(words("grant \"" + "a\"\"".repeat(200_000) + "\" to b")).hasSize(1);
  }
}
