package org.sobercompass.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** How long work tells how far it is. */
class ProgressLineTest {
  private static final long SECOND = 1_000_000_000L;

  private final StringWriter said = new StringWriter();
  private long now;

  private ProgressLine line(boolean terminal, boolean asked) {
    return new ProgressLine(new PrintWriter(said, true), terminal, asked, () -> now);
  }

  @BeforeEach
  void start() {
    now = 1000 * SECOND;
  }

  @Test
  void aTerminalSeesOneLineWithRateAndTimeLeftThatIsWiped() {
    ProgressLine line = line(true, false);
    line.begin("reading");
    now += 2 * SECOND;
    line.begin("findings");
    now += 4 * SECOND;
    line.at(2000, 10_000);
    assertThat(said.toString()).isEqualTo("\r2,000 of 10,000, 500 a second, 16 s left: findings");
    said.getBuffer().setLength(0);
    line.end();
    assertThat(said.toString()).isEqualTo("\r" + " ".repeat(50) + "\r");
  }

  @Test
  void whoDidNotAskAndHasNoTerminalSeesNothing() {
    ProgressLine line = line(false, false);
    line.begin("findings");
    now += 60 * SECOND;
    line.at(2000, 10_000);
    line.end();
    assertThat(said.toString()).isEmpty();
  }

  @Test
  void nothingStandsInAnAnswerThatIsPrintedToTheSameTerminal() {
    ProgressLine line = line(true, false);
    line.begin("answering");
    now += 2 * SECOND;
    line.at(100, 1000);
    line.answer(true);
    assertThat(said.toString()).endsWith("\r" + " ".repeat(47) + "\r");
    said.getBuffer().setLength(0);
    now += 2 * SECOND;
    line.at(200, 1000);
    assertThat(said.toString()).isEmpty();
  }

  @Test
  void anAnswerThatGoesElsewhereIsStillFollowed() {
    ProgressLine line = line(true, false);
    line.begin("answering");
    line.answer(false);
    now += 2 * SECOND;
    line.at(100, 1000);
    assertThat(said.toString()).isEqualTo("\r100 of 1,000, 50 a second, 18 s left: answering");
  }

  @Test
  void aNarrowTerminalSeesTheFiguresAndAsMuchOfTheStageAsFits() {
    ProgressLine line = line(true, false);
    line.begin("one person holds rights that must be kept apart ".repeat(3));
    now += 2 * SECOND;
    line.at(55_900, 79_963);
    assertThat(said.toString())
        .startsWith("\r55,900 of 79,963, 27,950 a second, 1 s left: one person holds")
        .hasSize(Terminal.width());
  }

  @Test
  void quickWorkSaysNothing() {
    ProgressLine line = line(true, false);
    line.begin("findings");
    now += SECOND / 2;
    line.at(10_000, 10_000);
    line.end();
    assertThat(said.toString()).isEmpty();
  }

  @Test
  void whoAskedIsToldEveryFewSecondsAndWhatTookHowLong() {
    ProgressLine line = line(false, true);
    line.begin("reading");
    now += 3 * SECOND;
    line.begin("findings");
    for (int i = 1; i <= 8; i++) {
      now += SECOND;
      line.at(i * 100, 800);
    }
    line.end();
    assertThat(said.toString().lines())
        .containsExactly(
            "200 of 800, 100 a second, 6 s left: findings",
            "800 of 800, 100 a second, 0 s left: findings",
            "    3.00 s  reading",
            "    8.00 s  findings",
            "   11.00 s  in all");
  }

  @Test
  void aSecondPassOverTheSameIsMeasuredFromItsOwnStart() {
    ProgressLine line = line(false, true);
    line.begin("findings");
    now += 6 * SECOND;
    line.at(600, 600);
    now += 6 * SECOND;
    line.at(100, 600);
    now += 6 * SECOND;
    line.at(400, 600);
    assertThat(said.toString()).endsWith("400 of 600, 67 a second, 3 s left: findings\n");
  }

  @Test
  void aCommandSaysAtItsEndWhatTookHowLong(@TempDir Path folder) throws IOException {
    Path root = folder.resolve("w");
    FullWorkspace.write(root);
    SoberTest.Said command =
        SoberTest.sober("findings", "--progress", "-f", "csv", "-w", root.toString());
    assertThat(command.err()).contains(" s  reading").contains(" s  in all");
    assertThat(command.out()).doesNotContain(" s  in all");
  }
}
