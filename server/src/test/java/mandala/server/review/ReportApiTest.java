package mandala.server.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import mandala.core.model.key.PrincipalKey;
import mandala.server.Caller;
import mandala.server.history.ReportProof;
import mandala.server.session.Credentials;
import org.apache.commons.codec.digest.DigestUtils;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.JsonNode;

/** What a round came to is written once, signed, held to the trail, and found by person. */
class ReportApiTest extends CarriedCase {

  @Autowired private Credentials credentials;
  @Autowired private ReportProof proof;

  /** A round in which Tomas removed Odile's loans, all else was kept by rule, and that closed. */
  private long closed() {
    long round = made("ilse.varga", "at-once", "keep");
    decided(round, "\"verdict\": \"remove\", \"reason\": \"She left loans\"");
    run();
    later(15);
    assertThat(state(round)).isEqualTo("closed");
    return round;
  }

  private static String path(long round, String rest) {
    return "/api/reviews/" + round + "/report" + rest;
  }

  private Caller.Answer sign(String who, long round) {
    Caller caller = as(who);
    database.update("update credential set totp_last_step = -1");
    String code = credentials.demoCode(new PrincipalKey(who), clock.instant());
    return caller.send(
        "POST", "/api/reviews/" + round + "/signature", "{\"proof\": \"" + code + "\"}");
  }

  private static byte[] bytes(Caller caller, long round, String format) {
    return caller.file(path(round, "/file?format=" + format));
  }

  @Test
  void aReportTellsWhatWasAskedDecidedAndDone() {
    long round = closed();
    JsonNode report = ok(as("ilse.varga").get(path(round, "/json")));
    JsonNode summary = report.get("summary");
    assertThat(summary.get("removed").intValue()).isEqualTo(1);
    assertThat(summary.get("byRule").intValue())
        .isEqualTo(summary.get("items").intValue() - 1 - summary.get("gone").intValue());
    assertThat(summary.get("before").longValue()).isPositive();
    JsonNode odile = null;
    for (JsonNode it : report.get("items")) {
      if ("remove".equals(it.path("verdict").stringValue(""))) {
        odile = it;
      }
    }
    assertThat(odile).isNotNull();
    assertThat(odile.get("whoseName").stringValue()).isEqualTo("Odile Farrow");
    assertThat(odile.get("decidedBy").stringValue()).isEqualTo("Tomas Brandt");
    assertThat(odile.get("reason").stringValue()).isEqualTo("She left loans");
    assertThat(odile.get("outcome").stringValue()).isEqualTo("In force");
    assertThat(odile.get("revision").longValue()).isPositive();
    assertThat(odile.get("expected").longValue()).isPositive();
    assertThat(odile.get("history").toString()).contains("decided", "counted", "in-force");
    assertThat(report.has("signature")).isFalse();
  }

  @Test
  void itIsPaperAndAWorkbookToo(@TempDir Path folder) throws Exception {
    long round = closed();
    Caller ilse = as("ilse.varga");
    try (var paper = Loader.loadPDF(bytes(ilse, round, "pdf"))) {
      String text = new PDFTextStripper().getText(paper).replaceAll("\\s+", " ");
      assertThat(text).contains("Review: Quarterly", "Odile Farrow", "She left loans", "In force");
    }
    List<String> sheets = new ArrayList<>();
    StringBuilder cells = new StringBuilder();
    Path file = folder.resolve("report.xlsx");
    Files.write(file, bytes(ilse, round, "xlsx"));
    try (ZipFile book = new ZipFile(file.toFile())) {
      for (ZipEntry it : Collections.list(book.entries())) {
        if (it.getName().startsWith("xl/worksheets/sheet")) {
          sheets.add(it.getName());
        }
        cells.append(new String(book.getInputStream(it).readAllBytes(), StandardCharsets.UTF_8));
      }
    }
    assertThat(sheets).hasSize(3);
    assertThat(cells).contains("Odile Farrow", "She left loans", "In force");
    assertThat(ilse.get(path(round, "/file?format=doc")).status()).isEqualTo(400);
  }

  @Test
  void whoRunsItSignsItOnceWithASecondFactor() {
    long round = closed();
    JsonNode before = ok(as("ilse.varga").get(path(round, "")));
    assertThat(before.get("signable").booleanValue()).isTrue();
    Caller ilse = as("ilse.varga");
    assertThat(
            ilse.send("POST", "/api/reviews/" + round + "/signature", "{\"proof\": \"000000\"}")
                .status())
        .isEqualTo(400);
    assertThat(sign("vera.lindqvist", round).status()).as("an auditor reads").isEqualTo(403);
    assertThat(sign("noor.haddad", round).status()).isEqualTo(404);
    JsonNode signed = ok(sign("ilse.varga", round));
    assertThat(signed.get("signedByName").stringValue()).isEqualTo("Ilse Varga");
    assertThat(signed.get("signable").booleanValue()).isFalse();
    assertThat(signed.get("hashes")).isNotEqualTo(before.get("hashes"));
    JsonNode report = ok(as("ilse.varga").get(path(round, "/json")));
    assertThat(report.at("/signature/name").stringValue()).isEqualTo("Ilse Varga");
    assertThat(sign("ilse.varga", round).status()).isEqualTo(409);
  }

  @Test
  void anOpenRoundHasNoReport() {
    long round = made("ilse.varga", "at-end", "keep");
    assertThat(as("ilse.varga").get(path(round, "/json")).status()).isEqualTo(409);
    assertThat(sign("ilse.varga", round).status()).isEqualTo(409);
    assertThat(ok(as("ilse.varga").get(path(round, ""))).get("hashes")).isEmpty();
  }

  @Test
  void aFileIsHeldToTheTrailAndAnAlteredOneIsRefused(@TempDir Path folder) throws Exception {
    long round = closed();
    ok(sign("ilse.varga", round));
    Caller ilse = as("ilse.varga");
    JsonNode hashes = ok(ilse.get(path(round, ""))).get("hashes");
    for (String form : List.of("json", "xlsx", "pdf")) {
      byte[] content = bytes(ilse, round, form);
      assertThat(DigestUtils.sha256Hex(content)).isEqualTo(hashes.get(form).stringValue());
      Path file = folder.resolve("report." + form);
      Files.write(file, content);
      assertThat(proof.of(file)).contains("GENUINE").contains("Signed the review round " + round);
      content[content.length / 2] ^= 1;
      Files.write(file, content);
      assertThat(proof.of(file)).contains("NOT GENUINE");
    }
    assertThat(proof.of(folder.resolve("nowhere.pdf"))).contains("NOT READ");
  }

  @Test
  void aTitleThatNamesAHashProvesNothing(@TempDir Path folder) throws Exception {
    Path forged = folder.resolve("forged.json");
    Files.writeString(forged, "{\"format\": \"mandala-review/1\"}");
    String hash = DigestUtils.sha256Hex(Files.readAllBytes(forged));
    String title = "; SHA-256 of its report: json " + hash;
    long round =
        made(
            "ilse.varga",
            order("at-end", "keep", 0, false, 0).replace("\"Quarterly\"", "\"" + title + "\""));
    later(15);
    assertThat(state(round)).isEqualTo("closed");
    assertThat(proof.of(forged)).contains("NOT GENUINE");
  }

  @Test
  void anAuditorFindsInOneSearchWhetherSomebodyWasReviewed() {
    long round = closed();
    LocalDate since = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC).minusMonths(3);
    String search = "/api/reviews/reviewed?person=odile.farrow&since=" + since;
    JsonNode found = ok(as("vera.lindqvist").get(search)).get("rows");
    assertThat(found).isNotEmpty();
    JsonNode removed = null;
    for (JsonNode it : found) {
      assertThat(it.get("round").longValue()).isEqualTo(round);
      removed = "remove".equals(it.path("verdict").stringValue("")) ? it : removed;
    }
    assertThat(removed).isNotNull();
    assertThat(removed.get("byName").stringValue()).isEqualTo("Tomas Brandt");
    assertThat(removed.get("outcome").stringValue()).isEqualTo("In force");
    long revision = removed.get("revision").longValue();
    JsonNode of = ok(as("vera.lindqvist").get("/api/reviews/revisions/" + revision)).get("rows");
    assertThat(of).hasSize(1);
    assertThat(of.get(0).get("reason").stringValue()).isEqualTo("She left loans");
    assertThat(ok(as("noor.haddad").get("/api/reviews/revisions/" + revision)).get("rows"))
        .as("not for whoever may not read the round")
        .isEmpty();
    assertThat(
            as("vera.lindqvist").get("/api/reviews/reviewed?person=nobody&since=" + since).status())
        .isEqualTo(404);
    assertThat(as("noor.haddad").get(search).status()).isEqualTo(404);
    assertThat(
            as("vera.lindqvist")
                .get("/api/reviews/reviewed?person=odile.farrow&since=" + since.plusYears(1)))
        .satisfies(it -> assertThat(ok(it).get("rows")).isEmpty());
    assertThat(as("vera.lindqvist").get("/api/reviews/reviewed?person=odile.farrow").status())
        .isEqualTo(400);
  }

  @Test
  void aReportIsForThoseWhoMayReadAllThatItNames() {
    long round = closed();
    assertThat(as("noor.haddad").get(path(round, "/json")).status()).isEqualTo(404);
    assertThat(as("dario.penn").get(path(round, "/json")).status()).isEqualTo(404);
    assertThat(as("vera.lindqvist").get(path(round, "/json")).status()).isEqualTo(200);
    database.update("update review_report set named = named || 'sunniva.dunlow'::text");
    assertThat(as("vera.lindqvist").get(path(round, "/json")).status())
        .as("somebody of another trust is named")
        .isEqualTo(403);
  }
}
