package org.sobercompass.report.picture;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.StringReader;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import javax.xml.parsers.DocumentBuilderFactory;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.sobercompass.core.comparison.Reading;
import org.sobercompass.core.findings.Weight;
import org.sobercompass.report.picture.LayeredDrawing.Shape;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.NodeList;
import org.xml.sax.InputSource;

/** Pictures as XML: well formed, readable without overlap, alike things merged, the same again. */
class PicturesTest {
  private record Area(double x, double y, double w, double h, String text) {
    boolean overlaps(Area other) {
      return x < other.x + other.w && other.x < x + w && y < other.y + other.h && other.y < y + h;
    }
  }

  private static Document parse(String svg) {
    try {
      DocumentBuilderFactory factory = DocumentBuilderFactory.newInstance();
      factory.setFeature("http://apache.org/xml/features/disallow-doctype-decl", true);
      return factory.newDocumentBuilder().parse(new InputSource(new StringReader(svg)));
    } catch (Exception e) {
      throw new AssertionError(svg, e);
    }
  }

  private static double number(Element element, String attribute) {
    return Double.parseDouble(element.getAttribute(attribute));
  }

  /** Where the labels of a picture stand, by a generous measure of their letters. */
  private static List<Area> labels(Document picture) {
    List<Area> areas = new ArrayList<>();
    NodeList texts = picture.getElementsByTagName("text");
    for (int i = 0; i < texts.getLength(); i++) {
      Element text = (Element) texts.item(i);
      if (text.getAttribute("x").isEmpty()) {
        continue; // it climbs
      }
      String style = text.getAttribute("class");
      double letter = style.contains("small") ? 5.6 : style.contains("quiet") ? 6.6 : 7.1;
      double w = text.getTextContent().length() * letter;
      double x = number(text, "x");
      double left = style.contains("left") ? x : style.contains("right") ? x - w : x - w / 2;
      areas.add(new Area(left, number(text, "y") - 9, w, 10, text.getTextContent()));
    }
    return areas;
  }

  private static void assertReadable(String svg) {
    Document picture = parse(svg);
    Element root = picture.getDocumentElement();
    double right = number(root, "width");
    double bottom = number(root, "height");
    List<Area> all = labels(picture);
    for (int i = 0; i < all.size(); i++) {
      Area one = all.get(i);
      assertThat(one.x).as("%s begins in the picture", one).isGreaterThanOrEqualTo(-8);
      assertThat(one.x + one.w).as("%s ends in the picture", one).isLessThanOrEqualTo(right + 8);
      assertThat(one.y + one.h).as("%s", one).isLessThanOrEqualTo(bottom + 2);
      for (Area other : all.subList(i + 1, all.size())) {
        assertThat(one.overlaps(other)).as("%s over %s", one, other).isFalse();
      }
    }
  }

  private static LayeredDrawing random(long seed, int boxes) {
    Random random = new Random(seed);
    LayeredDrawing drawing = new LayeredDrawing();
    Shape[] shapes = Shape.values();
    for (int b = 0; b < boxes; b++) {
      String name = "box " + "x".repeat(random.nextInt(50)) + b;
      drawing.box("b" + b, shapes[random.nextInt(shapes.length)], "kind " + b % 3, name);
      for (int k = random.nextInt(3); b > 0 && k >= 0; k--) {
        drawing.arrow("b" + random.nextInt(b), "b" + b, random.nextInt(4) == 0);
      }
    }
    return drawing;
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 5, 12, 25, 40, 60})
  void fortyBoxesAndMoreCanBeReadAndTheSameAgain(int boxes) {
    for (int seed = 0; seed < 10; seed++) {
      String svg = random(seed, boxes).draw("random");
      assertReadable(svg);
      assertThat(random(seed, boxes).draw("random")).isEqualTo(svg);
    }
  }

  @Test
  void whatIsAlikeIsMergedAndCounted() {
    LayeredDrawing drawing = new LayeredDrawing();
    drawing.box("a", Shape.ACCOUNT, "account", "Ann");
    drawing.box("r", Shape.ROLE, "role", "Clerk");
    drawing.arrow("a", "r", false);
    for (String right : List.of("edit", "view", "print")) {
      drawing.box(right, Shape.PERMISSION, "permission", right);
      drawing.arrow("r", right, false);
    }
    drawing.box("own", Shape.PERMISSION, "permission", "own");
    drawing.arrow("a", "own", false);
    Document picture = parse(drawing.draw("merged"));
    List<String> texts = labels(picture).stream().map(Area::text).toList();
    assertThat(texts).contains("3: edit, print …", "own", "Clerk", "Ann").doesNotContain("view");
    assertThat(picture.getElementsByTagName("rect").getLength()).isEqualTo(4);
    assertThat(picture.getDocumentElement().getTextContent())
        .as("all names stand in the hint")
        .contains("permission: edit, view, print");
  }

  @Test
  void namesThatAreMarkupOrTurnedAroundAreText() {
    LayeredDrawing drawing = new LayeredDrawing();
    drawing.box("a", Shape.ACCOUNT, "account", "</text><script>x</script>\u202eb\u0000\ud800");
    String svg = drawing.draw("a & <b>");
    assertThat(parse(svg).getElementsByTagName("script").getLength()).isZero();
    assertThat(svg.indexOf(0x202e)).isNegative();
    assertThat(parse(Look.alone(svg)).getElementsByTagName("style").getLength()).isEqualTo(1);
  }

  @Test
  void aTreeIsReadable() {
    List<TreeDrawing.Place> places = new ArrayList<>();
    Random random = new Random(7);
    int depth = 0;
    for (int i = 0; i < 40; i++) {
      String says = random.nextBoolean() ? "somebody: change; others: read " + i : "";
      places.add(new TreeDrawing.Place(depth, "place-" + i, says.isEmpty() ? "=" : "+|", says));
      depth = Math.max(1, Math.min(9, depth + random.nextInt(3) - 1));
    }
    assertReadable(TreeDrawing.draw("tree", places));
    assertThat(TreeDrawing.draw("tree", List.of())).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 7, 24, 60})
  void readingsStandBesideEachOther(int readings) {
    Map<String, Reading> all = new LinkedHashMap<>();
    for (int i = 0; i < readings; i++) {
      Map<Weight, Integer> findings =
          Map.of(Weight.HIGH, i % 20, Weight.MEDIUM, 3 * i % 50, Weight.LOW, 100 - i);
      Instant at = Instant.parse("2026-01-01T12:00:00Z").plusSeconds(86_400L * i);
      all.put("s" + i, new Reading(at, 100, 1, 20, 50, i % 9, findings));
    }
    String svg = TimeDrawing.draw(all, ZoneId.of("UTC"));
    assertReadable(svg);
    int bars = parse(svg).getElementsByTagName("rect").getLength();
    assertThat(bars)
        .as("three a reading, three in the legend")
        .isEqualTo(3 * Math.min(24, readings) + 3);
    assertReadable(TimeDrawing.draw(Map.of(), ZoneId.of("UTC")));
  }
}
