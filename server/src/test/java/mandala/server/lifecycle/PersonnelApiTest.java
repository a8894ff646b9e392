package mandala.server.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.UnaryOperator;
import java.util.stream.StreamSupport;
import mandala.core.change.Change;
import mandala.core.lifecycle.PersonnelList;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.Caller;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.util.FileSystemUtils;
import tools.jackson.databind.JsonNode;

/** Lists of the personnel office: looked at, given by hand, taken from the folder, stopped. */
class PersonnelApiTest extends LifecycleCase {

  private static final String PATH = "/api/personnel";
  private static final String HEAD = "Personnel number,Name,E-mail,Job title,Reports to\n";

  @Autowired private PersonnelRun run;

  private List<Principal> staff = List.of();

  @BeforeEach
  void noLists() {
    List.of("personnel_list", "personnel_source", "notice")
        .forEach(it -> database.update("delete from " + it));
    staff =
        model.engine().catalogue().principals().values().stream()
            .filter(it -> it.account().value().equals("quillhaven"))
            .filter(it -> it.kind() == Principal.Kind.PERSON && it.email() != null)
            .filter(it -> it.status() == Principal.Status.ACTIVE)
            .toList();
    assertThat(staff).hasSizeGreaterThan(5);
  }

  @AfterEach
  void noFiles() throws IOException {
    FileSystemUtils.deleteRecursively(folder());
  }

  private Path folder() {
    return Path.of(environment.getRequiredProperty("mandala.personnel"), "quillhaven");
  }

  private void file(String content) throws IOException {
    Files.createDirectories(folder());
    Files.writeString(folder().resolve("staff.csv"), content);
  }

  private static Map<String, Object> order(@Nullable String file, String does) {
    Map<String, Object> order = new HashMap<>();
    order.put("title", "Quillhaven staff");
    order.put("account", "quillhaven");
    order.put("columns", Map.of());
    order.put("missing", "leave");
    order.put("most", 30);
    order.put("does", does);
    if (file != null) {
      order.put("file", file);
    }
    return order;
  }

  private static String title(Principal it) {
    return it.attributes().getOrDefault("title", "");
  }

  private static String manager(Principal it) {
    return it.manager() == null ? "" : it.manager().value();
  }

  /** {@return a list that says of people what the model says}, but for what is done to its lines */
  private String list(UnaryOperator<List<String>> how) {
    List<String> lines = new ArrayList<>();
    for (int i = 0; i < staff.size(); i++) {
      Principal it = staff.get(i);
      lines.add(
          "N%03d,%s,%s,%s,%s"
              .formatted(
                  i,
                  it.about().nameOr(it.key()),
                  Objects.requireNonNull(it.email()).toUpperCase(Locale.ROOT),
                  title(it),
                  manager(it)));
    }
    return HEAD + String.join("\n", how.apply(lines));
  }

  private String whole() {
    return list(lines -> lines);
  }

  private static long set(Caller who, Map<String, Object> order) {
    return ok(post(who, PATH, order)).get("number").asLong();
  }

  private static JsonNode preview(Caller who, String list) {
    return ok(post(who, PATH + "/preview", Map.of("order", order(null, "proposes"), "list", list)));
  }

  private static List<String> keys(JsonNode preview, String state) {
    return StreamSupport.stream(preview.get("first").spliterator(), false)
        .filter(it -> it.get("state").stringValue().equals(state))
        .map(it -> it.path("person").stringValue("-"))
        .toList();
  }

  /** Gives everybody their number, as the first list does. */
  private void numbered(Caller ilse, long source) {
    JsonNode taken = ok(post(ilse, PATH + "/" + source + "/lists", Map.of("list", whole())));
    assertThat(taken.get("state").stringValue()).isEqualTo("proposed");
    assertThat(taken.get("changes").intValue()).isEqualTo(staff.size());
    applied(ilse, "ilse.varga");
  }

  private static void discard(Caller who, String draft) {
    ok(who.send("PATCH", "/api/drafts/" + draft, "{\"state\":\"discarded\"}"));
  }

  @Test
  void theFirstListGivesEverybodyTheirNumberAndNothingElse() {
    Caller ilse = as("ilse.varga");
    JsonNode looked = preview(ilse, whole());
    assertThat(looked.get("faulty").intValue()).as(looked.toString()).isZero();
    assertThat(keys(looked, "changes")).hasSize(staff.size());
    assertThat(model.state().revision()).as("a look changes nothing").isEqualTo(before);

    long source = set(ilse, order(null, "proposes"));
    numbered(ilse, source);
    for (int i = 0; i < staff.size(); i++) {
      Map<String, String> attributes = new HashMap<>(staff.get(i).attributes());
      attributes.put(PersonnelList.NUMBER, "N%03d".formatted(i));
      Principal is = person(staff.get(i).key().value());
      assertThat(is.attributes()).isEqualTo(attributes);
      assertThat(is.manager()).isEqualTo(staff.get(i).manager());
      assertThat(is.status()).isEqualTo(Principal.Status.ACTIVE);
    }
    JsonNode again = ok(post(ilse, PATH + "/" + source + "/lists", Map.of("list", whole())));
    assertThat(again.get("state").stringValue()).as("it says the same").isEqualTo("nothing");
    JsonNode listed = ok(ilse.get(PATH)).at("/lists/0/taken");
    assertThat(listed.get(1).get("state").stringValue()).isEqualTo("applied");
    assertThat(listed.get(1).get("revision").longValue()).isGreaterThan(before);
  }

  @Test
  void oneJoinsOneChangesOneLeavesAndOneComesBack() {
    Caller ilse = as("ilse.varga");
    long source = set(ilse, order(null, "proposes"));
    numbered(ilse, source);
    String leaver = staff.get(0).key().value();
    String list =
        list(lines -> {
          List<String> all = new ArrayList<>(lines.subList(1, lines.size()));
          all.set(0, all.get(0).replaceFirst(",[^,]*,[^,]*$", ",Head of loans,N002"));
          all.add("N900,Juno Teasel,juno.teasel@example.org,Registrar,N001");
          return all;
        });
    JsonNode looked = preview(ilse, list);
    assertThat(looked.get("joins").intValue()).isEqualTo(1);
    assertThat(keys(looked, "leaves")).containsExactly(leaver);
    assertThat(keys(looked, "changes")).containsExactly(staff.get(1).key().value());
    assertThat(looked.at("/first").toString()).contains("→ Head of loans");

    ok(post(ilse, PATH + "/" + source + "/lists", Map.of("list", list)));
    applied(ilse, "ilse.varga");
    assertThat(person(leaver).status()).isEqualTo(Principal.Status.LEFT);
    assertThat(title(person(staff.get(1).key().value()))).isEqualTo("Head of loans");
    Principal juno = person("juno-teasel");
    assertThat(juno.status()).isEqualTo(Principal.Status.INVITED);
    assertThat(juno.manager()).isEqualTo(staff.get(1).key());
    assertThat(mail("juno-teasel")).contains("token=");

    ok(post(ilse, PATH + "/" + source + "/lists", Map.of("list", whole(), "leaves", 1)));
    applied(ilse, "ilse.varga");
    assertThat(person(leaver).status()).as("back").isEqualTo(Principal.Status.INVITED);
    assertThat(person("juno-teasel").status()).isEqualTo(Principal.Status.LEFT);
    JsonNode found = ok(ilse.get("/api/people?text=n900"));
    assertThat(found.get("total").intValue()).as("found again by the number").isEqualTo(1);
    assertThat(found.at("/rows/0/key").stringValue()).isEqualTo("juno-teasel");
  }

  @Test
  void linesThatCannotBeReadComeBackAndRemoveNobody() {
    Caller ilse = as("ilse.varga");
    long source = set(ilse, order(null, "proposes"));
    numbered(ilse, source);
    String list =
        list(lines -> {
          List<String> all = new ArrayList<>(lines);
          all.set(0, "N000,,not an address,,");
          all.set(1, all.get(1).replaceFirst(",[^,]*$", ",N001"));
          all.set(2, all.get(2).replaceFirst("^N002", ""));
          all.set(3, all.get(3).replaceFirst(",[^,]*$", ",nobody at all"));
          all.add("N004,Twice,,,");
          return all;
        });
    JsonNode looked = preview(ilse, list);
    assertThat(looked.get("faulty").intValue()).as(looked.toString()).isEqualTo(5);
    assertThat(keys(looked, "leaves")).isEmpty();
    assertThat(looked.get("notTaken").stringValue())
        .contains("There is no name. 'not an address' is no e-mail address.")
        .contains("Nobody manages themselves.")
        .contains("There is no personnel number.")
        .contains("There is no manager 'nobody at all' that you can choose.")
        .contains("The same person is on line 6 already.");
  }

  @Test
  void whoWouldManageThemselvesThroughOthersIsNotTaken() {
    String list =
        list(lines -> {
          List<String> all = new ArrayList<>(lines);
          all.set(0, all.get(0).replaceFirst(",[^,]*$", ",N001"));
          all.set(1, all.get(1).replaceFirst(",[^,]*$", ",N002"));
          all.set(2, all.get(2).replaceFirst(",[^,]*$", ",N000"));
          return all;
        });
    JsonNode looked = preview(as("ilse.varga"), list);
    assertThat(looked.get("faulty").intValue()).isEqualTo(3);
    assertThat(looked.get("notTaken").stringValue())
        .contains("They would manage themselves, through others.");
  }

  @Test
  void aListThatWouldRemoveTooManyNeedsItsNumber() {
    Caller ilse = as("ilse.varga");
    long source = set(ilse, order(null, "proposes"));
    numbered(ilse, source);
    String path = PATH + "/" + source + "/lists";
    String few = list(lines -> lines.subList(0, 2));
    int gone = staff.size() - 2;
    long revision = model.state().revision();
    assertThat(preview(ilse, few).get("tooMany").stringValue())
        .isEqualTo(
            "It would remove %d of %d people, more than 30 %%.".formatted(gone, staff.size()));
    refused(post(ilse, path, Map.of("list", few)), 409, "would remove too many");
    refused(post(ilse, path, Map.of("list", few, "leaves", gone - 1)), 409, "too many");
    refused(post(ilse, path, Map.of("list", HEAD, "leaves", 0)), 409, "too many");
    assertThat(ok(ilse.get(PATH)).at("/lists/0/taken")).as("nothing is half taken").hasSize(1);
    JsonNode taken = ok(post(ilse, path, Map.of("list", few, "leaves", gone)));
    assertThat(taken.get("leaves").intValue()).isEqualTo(gone);
    assertThat(model.state().revision()).as("a draft so far").isEqualTo(revision);
    refused(post(ilse, path, Map.of("list", whole())), 409, "still waits in a draft");
  }

  @Test
  void aFileOfTheFolderIsAppliedOnceAndStoppedWhereItRemovesTooMany() throws IOException {
    Caller ilse = as("ilse.varga");
    long source = set(ilse, order("staff.csv", "applies"));
    run.run(clock.instant());
    assertThat(ok(ilse.get(PATH)).at("/lists/0/taken")).as("no file so far").isEmpty();

    file("\uFEFF" + whole());
    run.run(clock.instant());
    run.run(clock.instant());
    JsonNode taken = ok(ilse.get(PATH)).at("/lists/0/taken");
    assertThat(taken).as("the same file is taken once").hasSize(1);
    assertThat(taken.at("/0/state").stringValue()).as(taken.toString()).isEqualTo("applied");
    List<Change> done = history.changes(before, model.state().revision()).orElseThrow();
    assertThat(done).hasSize(staff.size());

    long revision = model.state().revision();
    file(list(lines -> lines.subList(0, 2)));
    run.run(clock.instant());
    JsonNode stopped = ok(ilse.get(PATH)).at("/lists/0/taken/0");
    assertThat(stopped.get("state").stringValue()).isEqualTo("stopped");
    assertThat(model.state().revision()).isEqualTo(revision);
    assertThat(database.queryForList("select said from notice", String.class))
        .anyMatch(it -> it.contains("Quillhaven staff") && it.contains("It would remove"));

    String path = PATH + "/" + source + "/lists/" + stopped.get("number").asLong();
    JsonNode looked = ok(ilse.get(path));
    int gone = staff.size() - 2;
    assertThat(looked.get("leaves").intValue()).isEqualTo(gone);
    refused(post(ilse, path + "/take", Map.of("leaves", 1)), 409, "would remove too many");
    JsonNode now = ok(post(ilse, path + "/take", Map.of("leaves", gone)));
    assertThat(now.get("state").stringValue()).isEqualTo("proposed");
    assertThat(now.get("byName").stringValue()).isEqualTo("Ilse Varga");
    refused(ilse.get(path), 404, "is not stopped");
    discard(ilse, now.get("draft").stringValue());
    assertThat(ok(ilse.get(PATH)).at("/lists/0/taken/0/state").stringValue())
        .isEqualTo("discarded");
    assertThat(database.queryForObject("select count(content) from personnel_list", Long.class))
        .as("a file is kept only while it is stopped")
        .isZero();
  }

  @Test
  void aStoppedFileIsDismissedOrReplacedByANewerOne() throws IOException {
    Caller ilse = as("ilse.varga");
    long source = set(ilse, order("staff.csv", "applies"));
    file(whole());
    run.run(clock.instant());
    file(list(lines -> lines.subList(0, 1)));
    ok(post(ilse, PATH + "/" + source + "/look", Map.of()));
    file(list(lines -> lines.subList(0, 2)));
    JsonNode taken = ok(post(ilse, PATH + "/" + source + "/look", Map.of())).get("taken");
    assertThat(taken.findValuesAsString("state"))
        .containsExactly("stopped", "dismissed", "applied");
    String path = PATH + "/" + source + "/lists/" + taken.at("/0/number").asLong();
    JsonNode dismissed = ok(ilse.send("DELETE", path, "")).get("taken");
    assertThat(dismissed.at("/0/state").stringValue()).isEqualTo("dismissed");
    refused(ilse.send("DELETE", path, ""), 404, "no longer waits");
    run.run(clock.instant());
    assertThat(ok(ilse.get(PATH)).at("/lists/0/taken")).as("it is not taken again").hasSize(3);
  }

  @Test
  void aListGivenByHandTakesThePlaceOfAFileThatIsStopped() throws IOException {
    Caller ilse = as("ilse.varga");
    long source = set(ilse, order("staff.csv", "applies"));
    file(whole());
    run.run(clock.instant());
    file(list(lines -> lines.subList(0, 1)));
    run.run(clock.instant());
    String all = list(lines -> lines.subList(1, lines.size()));
    ok(post(ilse, PATH + "/" + source + "/lists", Map.of("list", all)));
    assertThat(ok(ilse.get(PATH)).at("/lists/0/taken").findValuesAsString("state"))
        .containsExactly("proposed", "dismissed", "applied");
  }

  @Test
  void aFileIsProposedToItsOwnerAndTheNextWaitsForThem() throws IOException {
    Caller ilse = as("ilse.varga");
    set(ilse, order("staff.csv", "proposes"));
    file(whole());
    run.run(clock.instant());
    JsonNode taken = ok(ilse.get(PATH)).at("/lists/0/taken/0");
    assertThat(taken.get("state").stringValue()).isEqualTo("proposed");
    String draft = taken.get("draft").stringValue();
    assertThat(ok(ilse.get("/api/drafts/" + draft)).toString()).contains("Quillhaven staff");
    file(list(lines -> lines.subList(1, lines.size())));
    run.run(clock.instant());
    assertThat(ok(ilse.get(PATH)).at("/lists/0/taken")).hasSize(1);
    discard(ilse, draft);
    run.run(clock.instant());
    assertThat(ok(ilse.get(PATH)).at("/lists/0/taken").findValuesAsString("state"))
        .containsExactly("proposed", "discarded");
  }

  @Test
  void whatIsNoTableIsSaidOnce() throws IOException {
    Caller ilse = as("ilse.varga");
    set(ilse, order("staff.csv", "applies"));
    file("number,name\n\"N1,Ada");
    run.run(clock.instant());
    run.run(clock.instant());
    JsonNode taken = ok(ilse.get(PATH)).at("/lists/0/taken");
    assertThat(taken).hasSize(1);
    assertThat(taken.at("/0/state").stringValue()).isEqualTo("unreadable");
    assertThat(taken.at("/0/heldUp").stringValue()).contains("This is no table");
    Files.delete(folder().resolve("staff.csv"));
    Path secret = Files.createTempFile("elsewhere", ".csv");
    Files.writeString(secret, whole());
    Files.createSymbolicLink(folder().resolve("staff.csv"), secret);
    run.run(clock.instant());
    assertThat(ok(ilse.get(PATH)).at("/lists/0/taken/0/heldUp").stringValue())
        .contains("leads out of the account's folder");
    assertThat(model.state().revision()).isEqualTo(before);
  }

  @Test
  void oneListHasItsPeopleAndEndsWithoutThem() {
    Caller ilse = as("ilse.varga");
    long source = set(ilse, order(null, "proposes"));
    Map<String, Object> above = order(null, "proposes");
    above.put("account", "larkmoor");
    refused(post(ilse, PATH, above), 409, "have a personnel list already");
    Map<String, Object> other = order(null, "applies");
    other.put("title", "Staff of Quillhaven");
    ok(ilse.send("PUT", PATH + "/" + source, json(other)));
    assertThat(ok(ilse.send("DELETE", PATH + "/" + source, "")).get("lists")).isEmpty();
    refused(ilse.send("PUT", PATH + "/" + source, json(other)), 404, "There is no personnel list");
    assertThat(ilse.get("/api/trail").body())
        .contains("Set up the personnel list “Quillhaven staff”")
        .contains("Ended the personnel list “Staff of Quillhaven”");
    ok(post(ilse, PATH, above));
  }

  @ParameterizedTest
  @CsvSource({
    "file,../x.csv,400,Write a file name",
    "file,a/b.csv,400,Write a file name",
    "does,deletes,400,does",
    "missing,vanish,400,missing",
    "most,101,400,most",
    "title,'',400,title",
    "account,nowhere,404,There is no account",
  })
  void badListsAreRefused(String field, String value, int status, String why) {
    Map<String, Object> order = order("staff.csv", "applies");
    order.put(field, value);
    refused(post(as("ilse.varga"), PATH, order), status, why);
  }

  @Test
  void whoMayNotManagePeopleThereHasNoList() {
    Caller ilse = as("ilse.varga");
    long source = set(ilse, order(null, "proposes"));
    Caller plain = as("noor.haddad");
    assertThat(ok(plain.get(PATH)).get("lists")).isEmpty();
    String path = PATH + "/" + source;
    refused(post(plain, PATH, order(null, "proposes")), 403, "Ask a directory administrator");
    refused(
        post(plain, PATH + "/preview", Map.of("order", order(null, "proposes"), "list", whole())),
        403,
        "Ask a directory administrator");
    refused(post(plain, path + "/lists", Map.of("list", whole())), 404, "no personnel list");
    refused(post(plain, path + "/look", Map.of()), 404, "no personnel list");
    refused(plain.send("DELETE", path, ""), 404, "no personnel list");
    refused(plain.get(path + "/lists/1"), 404, "no personnel list");
  }

  @Test
  void nobodyOfAnotherAccountIsTakenOver() {
    Principal elsewhere =
        model.engine().catalogue().principals().values().stream()
            .filter(it -> it.email() != null && !it.account().value().equals("quillhaven"))
            .findFirst()
            .orElseThrow();
    JsonNode looked = preview(as("ilse.varga"), HEAD + "N1,Somebody," + elsewhere.email() + ",,\n");
    assertThat(looked.get("faulty").intValue()).isEqualTo(1);
    assertThat(looked.get("notTaken").stringValue()).contains("Somebody else has the address");
    assertThat(model.engine().catalogue().principals())
        .doesNotContainKey(new PrincipalKey("somebody"));
  }
}
