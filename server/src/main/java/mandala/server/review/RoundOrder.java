package mandala.server.review;

import com.fasterxml.jackson.annotation.JsonIgnore;
import io.swagger.v3.oas.annotations.media.ArraySchema;
import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.EnumSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.review.Deciders;
import mandala.core.review.ReviewScope;
import mandala.document.ReviewText;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/**
 * What a round is to ask, and whom.
 *
 * @param contents whose access, or what else
 * @param accounts keys, with all below them; empty for all
 * @param place key of a resource where something must be given; absent for everywhere
 * @param risk at least
 * @param only {@code all}, {@code new} for what no round asked about as it is now, {@code never}
 *     for what no round asked about at all
 * @param detectors of findings of which an item must be part; empty for any item
 * @param stages who decides, one after the other; of each, who is asked first and who else where
 *     there is none: {@code manager}, {@code sponsor}, {@code place-owner}, {@code thing-owner},
 *     {@code account-owner}, {@code person:K}
 * @param passOn whether items go to the next decider whom their reviewer gave, or of reviewers who
 *     decide about each other
 * @param controls how many items known to be wrong each reviewer gets
 * @param repeats {@code never}, {@code monthly}, {@code quarterly} or {@code yearly}
 * @param effect how decisions take effect; absent for at the end, where what nobody decided is kept
 */
record RoundOrder(
    @NotBlank @Size(max = 120) String title,
    @NotEmpty
        @Size(max = 20)
        @ArraySchema(
            schema =
                @Schema(
                    allowableValues = {
                      "people",
                      "guests",
                      "services",
                      "groups",
                      "roles",
                      "patterns",
                      "everybody",
                      "bridges",
                      "delegations",
                      "exemptions",
                      "owners"
                    }))
        List<@NotBlank @Size(max = 20) String> contents,
    @NotNull @Size(max = 200) List<@NotBlank @Size(max = 200) String> accounts,
    @Nullable @Size(max = 300) String place,
    @NotBlank @Schema(allowableValues = {"low", "moderate", "high", "critical"}) String risk,
    @NotBlank @Schema(allowableValues = {"all", "new", "never"}) String only,
    @NotNull @Size(max = 40) List<@NotBlank @Size(max = 60) String> detectors,
    @NotEmpty @Size(max = 4) List<@Valid RoundStage> stages,
    @NotNull Instant begins,
    @NotNull Instant ends,
    boolean passOn,
    @Min(0) @Max(5) int controls,
    @NotBlank @Schema(allowableValues = {"never", "monthly", "quarterly", "yearly"}) String repeats,
    @Nullable @Valid RoundEffect effect) {

  private static final String PERSON = "person:";

  /**
   * How decisions take effect, and what becomes of what nobody decided.
   *
   * @param carried {@code at-once}, {@code daily} or {@code at-end}
   * @param remind days before the end when reviewers are reminded; 0 for not at all
   * @param escalate whether managers of reviewers decide after the end
   * @param grace days after the end until the rule for what nobody decided
   * @param undecided {@code keep}, {@code suspend} or {@code remove}
   */
  record RoundEffect(
      @NotBlank @Schema(allowableValues = {"at-once", "daily", "at-end"}) String carried,
      @Min(0) @Max(60) int remind,
      boolean escalate,
      @Min(0) @Max(60) int grace,
      @NotBlank @Schema(allowableValues = {"keep", "suspend", "remove"}) String undecided) {

    static final RoundEffect USUAL = new RoundEffect("at-end", 3, false, 0, "keep");
    static final RoundEffect AT_ONCE = new RoundEffect("at-once", 2, false, 3, "keep");
  }

  /** {@return how decisions take effect} */
  @JsonIgnore
  RoundEffect effectOrUsual() {
    return effect == null ? RoundEffect.USUAL : effect;
  }

  /** Who is asked in a stage: the first of them who is there. */
  record RoundStage(@NotEmpty @Size(max = 6) List<@NotBlank @Size(max = 220) String> order) {}

  /**
   * {@return what is in it}
   *
   * @throws Problem if a word means nothing
   */
  @JsonIgnore
  ReviewScope scope() {
    Set<ReviewScope.Content> all = EnumSet.noneOf(ReviewScope.Content.class);
    for (String word : contents) {
      all.add(named(ReviewScope.Content.class, word, "contents"));
    }
    Set<AccountKey> in = new LinkedHashSet<>();
    accounts.forEach(it -> in.add(new AccountKey(it)));
    return new ReviewScope(
        all,
        in,
        place == null || place.isBlank() ? null : new ResourceKey(place),
        named(Permission.Risk.class, risk, "risk"));
  }

  private static <E extends Enum<E>> E named(Class<E> of, String word, String field) {
    for (E it : of.getEnumConstants()) {
      if (it.name().toLowerCase(Locale.ROOT).equals(word)) {
        return it;
      }
    }
    throw Problem.badRequest(
        "'" + word + "' is no word for '" + field + "'", "Choose one of the list.");
  }

  /**
   * {@return who decides, stage by stage}
   *
   * @throws Problem if a word names no decider
   */
  List<List<Deciders.By>> deciders() {
    try {
      return stages.stream()
          .map(stage -> stage.order().stream().map(ReviewText::by).toList())
          .toList();
    } catch (IllegalArgumentException e) {
      throw Problem.badRequest(
          "Somebody who is to decide is not known",
          e.getMessage() + ". Choose a manager, an owner or a person.");
    }
  }

  /** {@return the same at another time} */
  RoundOrder from(Instant beginning, Instant end) {
    return new RoundOrder(
        title, contents, accounts, place, risk, only, detectors, stages, beginning, end, passOn,
        controls, repeats, effect);
  }

  /** {@return the same as a viewer may know it}: with marks for people whom they may not read */
  RoundOrder seen(RequestContext context) {
    boolean told =
        place == null || place.isBlank() || context.naming().tells(new ResourceKey(place));
    return new RoundOrder(
        title,
        contents,
        accounts,
        told ? place : null,
        risk,
        only,
        detectors,
        stages.stream()
            .map(stage ->
                new RoundStage(stage.order().stream().map(it -> seen(it, context)).toList()))
            .toList(),
        begins,
        ends,
        passOn,
        controls,
        repeats,
        effect);
  }

  private static String seen(String word, RequestContext context) {
    String key = word.startsWith(PERSON) ? word.substring(PERSON.length()) : "";
    return key.isEmpty() || context.naming().tells(Kind.PRINCIPALS, key)
        ? word
        : PERSON + context.mark(word);
  }

  /**
   * Checks what no single field tells.
   *
   * @throws Problem if it ends before it begins, or a word means nothing
   */
  void check(Instant now) {
    scope();
    deciders();
    if (!Set.of("all", "new", "never").contains(only)) {
      throw Problem.badRequest("'" + only + "' is no choice", "Choose all, new or never.");
    }
    if (!Set.of("never", "monthly", "quarterly", "yearly").contains(repeats)) {
      throw Problem.badRequest(
          "'" + repeats + "' is no interval", "Choose never, monthly, quarterly or yearly.");
    }
    RoundEffect how = effectOrUsual();
    if (!Set.of("at-once", "daily", "at-end").contains(how.carried())) {
      throw Problem.badRequest(
          "'" + how.carried() + "' is no time", "Choose at-once, daily or at-end.");
    }
    if (!Set.of("keep", "suspend", "remove").contains(how.undecided())) {
      throw Problem.badRequest(
          "'" + how.undecided() + "' is no choice", "Choose keep, suspend or remove.");
    }
    if (!ends.isAfter(begins) || !ends.isAfter(now)) {
      throw Problem.badRequest(
          "The round is over before it begins",
          "It would begin at " + begins + " and end at " + ends + ". Choose a later end.");
    }
  }
}
