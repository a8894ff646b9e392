package mandala.server.draft;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import mandala.server.ApiTest;
import mandala.server.Caller;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A draft on paper says what its page says, and to nobody else. */
@ApiTest
@DirtiesContext
class DraftPaperTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;

  @BeforeEach
  void endAll() {
    database.update("update draft set state = 'discarded' where state in ('open', 'aside')");
    database.update("update credential set totp_last_step = -1");
  }

  private static String edit(String name) {
    return "{\"kind\":\"groups\",\"key\":\"q-registrars\",\"set\":{\"name\":"
        + JSON.writeValueAsString(name)
        + "}}";
  }

  private static String edits(Caller caller, String edits) {
    Caller.Answer answer =
        caller.send("POST", "/api/drafts/open/edits", "{\"edits\":[" + edits + "]}");
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    JsonNode draft = answer.json().get("draft");
    return "/api/drafts/" + draft.get("id").stringValue();
  }

  /** A document as it is read: its words, and how many sheets it has. */
  private record Read(String text, int sheets, String title) {}

  private static Read read(byte[] bytes) {
    try (PDDocument document = Loader.loadPDF(bytes)) {
      return new Read(
          new PDFTextStripper().getText(document).replaceAll("\\s+", " "),
          document.getNumberOfPages(),
          document.getDocumentInformation().getTitle());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  @Test
  void saysWhatItChangesAndWhatThatDoes() {
    Caller ilse = Caller.as("ilse.varga", environment);
    String path = edits(ilse, edit("Registrátoři Ωμέγα Йод"));
    ilse.send(
        "PATCH",
        path,
        JSON.writeValueAsString(
            Map.of("name", "Rename the registrars", "reason", "New house style")));
    ilse.send("POST", path + "/comments", "{\"said\":\"Please look at the spelling\"}");
    Read paper = read(ilse.file(path + "/paper"));
    assertThat(paper.title()).isEqualTo("Rename the registrars");
    assertThat(paper.text())
        .contains("by Ilse Varga, to revision")
        .contains("Reason New house style")
        .contains("Registrátoři Ωμέγα Йод")
        .contains("Impact")
        .contains("Please look at the spelling")
        .contains("State Not applied");
    assertThat(paper.text()).contains(ilse.get(path).json().get("content").stringValue());
    JsonNode impact = ilse.get(path + "/impact?wait=10000").json();
    assertThat(paper.text()).contains(impact.get("summary").stringValue());
  }

  @Test
  void listsWhoGainsAndLoses() {
    Caller ilse = Caller.as("ilse.varga", environment);
    String path =
        edits(
            ilse,
            "{\"kind\":\"principals\",\"key\":\"noor.haddad\",\"set\":{\"status\":\"suspended\"}}");
    assertThat(read(ilse.file(path + "/paper")).text())
        .containsPattern("Noor Haddad \\([^)]+\\): loses [\\d,]+ rights");
  }

  @Test
  void goesOnOverSheetsWithTheirNumbers() {
    Caller ilse = Caller.as("ilse.varga", environment);
    String many =
        IntStream.range(0, 120)
            .mapToObj(i ->
                "{\"kind\":\"groups\",\"after\":{\"key\":\"paper-"
                    + i
                    + "\",\"name\":\"Paper group "
                    + i
                    + "\",\"account\":\"quillhaven\"}}")
            .collect(Collectors.joining(","));
    Read paper = read(ilse.file(edits(ilse, many) + "/paper"));
    assertThat(paper.sheets()).isGreaterThan(1);
    assertThat(paper.text()).contains("Paper group 0", "Paper group 119");
  }

  @Test
  void isForWhoMayReadTheDraft() {
    Caller ilse = Caller.as("ilse.varga", environment);
    String path = edits(ilse, edit("Registrars again"));
    Caller noor = Caller.as("noor.haddad", environment);
    assertThat(noor.get(path + "/paper").status()).isEqualTo(404);
    assertThat(noor.get("/api/drafts/no-such/paper").status()).isEqualTo(404);
  }
}
