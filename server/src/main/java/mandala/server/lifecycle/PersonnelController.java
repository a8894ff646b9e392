package mandala.server.lifecycle;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Costly;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Lists of the personnel office: who joins, changes, comes back and leaves. */
@RestController
@RequestMapping("/api/personnel")
class PersonnelController {

  private final PersonnelDesk desk;
  private final RequestContexts contexts;

  PersonnelController(PersonnelDesk desk, RequestContexts contexts) {
    this.desk = desk;
    this.contexts = contexts;
  }

  /**
   * What was taken of a list once.
   *
   * @param byName who gave it by hand; absent of a file of the folder
   * @param holds how many people it owned before it
   * @param heldUp why it is not in force
   * @param draft that has what it changes, where it is the viewer's
   * @param revision in which that is in force
   */
  record PersonnelTakenView(
      long number,
      Instant at,
      @Nullable String byName,
      int joins,
      int changes,
      int returns,
      int leaves,
      int faulty,
      int holds,
      @Schema(
              allowableValues = {
                "stopped",
                "unreadable",
                "proposed",
                "waits",
                "applied",
                "nothing",
                "dismissed",
                "declined",
                "discarded"
              })
          String state,
      @Nullable String heldUp,
      @Nullable String draft,
      @Nullable Long revision) {}

  /**
   * A list.
   *
   * @param ownerName with whose rights a file of the folder is taken
   * @param folder below which its file is looked for on the server; absent where it is given by
   *     hand
   * @param ownerIsActive whether its owner is active: without, no file is taken
   * @param taken what was taken of it last, the newest first
   */
  record PersonnelSourceView(
      long number,
      PersonnelOrder order,
      String accountName,
      String ownerName,
      @Nullable String folder,
      boolean ownerIsActive,
      List<PersonnelTakenView> taken) {}

  /** The lists of accounts in which the viewer may manage people. */
  record PersonnelSourceList(List<PersonnelSourceView> lists) {}

  /**
   * What a list does with one person, or a line that could not be read.
   *
   * @param line on which it begins; absent of who is missing from the list
   * @param person key of who is there already
   * @param says what changes, or what is wrong, in sentences
   */
  record PersonnelLineView(
      @Nullable Long line,
      @Schema(allowableValues = {"faulty", "leaves", "returns", "joins", "changes"}) String state,
      String name,
      String number,
      @Nullable String person,
      List<String> says) {}

  /**
   * What a list does in the model in force.
   *
   * @param columns of the table
   * @param facts that a column can hold
   * @param mapping which column holds which fact
   * @param holds how many people it owns before it
   * @param tooMany why it would be stopped; absent where it would not
   * @param first its lines: first faulty ones, then who leaves, comes back, joins, changes
   * @param notTaken the faulty lines as a file with the reasons; absent where there is none
   */
  record PersonnelPreview(
      List<String> columns,
      List<String> facts,
      Map<String, String> mapping,
      int joins,
      int changes,
      int returns,
      int leaves,
      int faulty,
      int unchanged,
      int holds,
      @Nullable String tooMany,
      List<PersonnelLineView> first,
      @Nullable String notTaken) {}

  /**
   * A list to look at.
   *
   * @param list a table whose first line names the columns
   */
  record PersonnelLook(
      @NotNull @Valid PersonnelOrder order, @NotBlank @Size(max = 20_000_000) String list) {}

  /**
   * A list that is given by hand.
   *
   * @param list a table whose first line names the columns; absent for the one that is stopped
   * @param leaves how many people leave, as its giver knows: needed where it would be stopped
   */
  record PersonnelGiven(
      @Nullable @Size(max = 20_000_000) String list, @Nullable @Min(0) Integer leaves) {}

  /** The lists of accounts in which the viewer may manage people. */
  @GetMapping
  PersonnelSourceList lists() {
    return new PersonnelSourceList(desk.lists(contexts.context()));
  }

  /** What a list would do; changes nothing. */
  @Costly
  @PostMapping("/preview")
  PersonnelPreview preview(@Valid @RequestBody PersonnelLook look) {
    return desk.preview(look.order(), look.list(), contexts.context());
  }

  /** Sets up a list. */
  @PostMapping
  PersonnelSourceView add(@Valid @RequestBody PersonnelOrder order) {
    return desk.add(order, contexts.context());
  }

  /** Changes how a list is read; whoever does is its owner from then on. */
  @PutMapping("/{source}")
  PersonnelSourceView change(@PathVariable long source, @Valid @RequestBody PersonnelOrder order) {
    return desk.change(source, order, contexts.context());
  }

  /** Ends a list; whom it brought in stay. */
  @DeleteMapping("/{source}")
  PersonnelSourceList end(@PathVariable long source) {
    desk.end(source, contexts.context());
    return lists();
  }

  /** Looks for a new file in the folder now. */
  @Costly
  @PostMapping("/{source}/look")
  PersonnelSourceView look(@PathVariable long source) {
    return desk.look(source, contexts.context());
  }

  /** Makes a draft of the caller from a list that they give by hand. */
  @Costly
  @PostMapping("/{source}/lists")
  PersonnelTakenView give(@PathVariable long source, @Valid @RequestBody PersonnelGiven given) {
    return desk.give(source, given, contexts.context());
  }

  /** What a list that is stopped would do now. */
  @Costly
  @GetMapping("/{source}/lists/{list}")
  PersonnelPreview stopped(@PathVariable long source, @PathVariable long list) {
    return desk.stopped(source, list, contexts.context());
  }

  /** Makes a draft of the caller from a list that is stopped. */
  @Costly
  @PostMapping("/{source}/lists/{list}/take")
  PersonnelTakenView takeAnyway(
      @PathVariable long source,
      @PathVariable long list,
      @Valid @RequestBody PersonnelGiven given) {
    return desk.takeAnyway(source, list, given, contexts.context());
  }

  /** Dismisses a list that is stopped or waits. */
  @DeleteMapping("/{source}/lists/{list}")
  PersonnelSourceView dismiss(@PathVariable long source, @PathVariable long list) {
    return desk.dismiss(source, list, contexts.context());
  }
}
