package mandala.server.authorization;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import mandala.core.authority.Authority;
import mandala.core.authority.RequiredRight;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.document.ChangeText;
import mandala.document.Naming;
import mandala.document.References;
import mandala.document.RouteText;
import mandala.document.ThingDocument;
import mandala.document.ThingText;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import mandala.server.platform.Secrets;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * One call's view of the model: the state, what the caller may see of it, and how it may be spoken
 * of, fitting together. Made for one call; not thread-safe.
 */
public final class RequestContext {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** Stands before what stands for a key that is not told; no key begins so. */
  private static final String MARK = "~";

  private static final String SECRET = "hidden-keys";

  private final LiveModel.State state;
  private final LiveModel.State asked;
  private final ReadPolicy readPolicy;
  private final Secrets secrets;
  private @Nullable Naming naming;

  RequestContext(
      LiveModel.State state, LiveModel.State asked, ReadPolicy readPolicy, Secrets secrets) {
    this.state = state;
    this.asked = asked;
    this.readPolicy = readPolicy;
    this.secrets = secrets;
  }

  /** {@return the model in force}, by which rights are judged */
  public LiveModel.State state() {
    return state;
  }

  /** {@return the model that is asked about}: the same, a past one, or one with a draft */
  public LiveModel.State asked() {
    return asked;
  }

  /** {@return what may be seen}, judged in the model in force */
  public ReadPolicy readPolicy() {
    return readPolicy;
  }

  /** {@return whether a past revision is asked about} */
  public boolean isPast() {
    return asked.revision() != state.revision();
  }

  /** {@return whether a draft is laid over the model} */
  @SuppressWarnings("ReferenceEquality") // a state is itself
  public boolean isDrafted() {
    return asked != state && !isPast();
  }

  /** {@return the same call's view of the model in force, without draft and past} */
  public RequestContext live() {
    return new RequestContext(state, state, readPolicy, secrets);
  }

  /**
   * {@return the same viewer's look at a newer model}, with the viewer's rights in it: for what is
   * decided on the newest revision
   */
  public RequestContext over(LiveModel.State newest) {
    return new RequestContext(newest, newest, readPolicy.in(newest.engine()), secrets);
  }

  /** {@return the same call's view of the model that a draft would leave} */
  public RequestContext with(Engine drafted, LiveModel.State over) {
    LiveModel.State other = LiveModel.State.of(over.revision(), over.demo(), drafted);
    return new RequestContext(state, other, readPolicy, secrets);
  }

  /** {@return the instant asked about}: now where a call names none */
  public Instant instantOrNow(@Nullable Instant at) {
    return at == null ? readPolicy.now() : at;
  }

  /** {@return this context}, without a draft if the viewer may read none of its accounts */
  public RequestContext withoutHiddenDraft() {
    Set<AccountKey> within = draftedWithin();
    return within != null && within.isEmpty() ? live() : this;
  }

  /**
   * {@return the accounts of which an answer over a draft may tell}: those that may be read in the
   * model in force, and those that the draft creates below them; null where no draft is laid over,
   * or all may be read
   */
  public @Nullable Set<AccountKey> draftedWithin() {
    if (!isDrafted()) {
      return null;
    }
    Set<AccountKey> told = new HashSet<>();
    Catalogue drafted = asked.engine().catalogue();
    for (AccountKey account : drafted.accounts().keySet()) {
      if (readPolicy.mayRead(Objects.requireNonNull(drafted.accounts().get(account)), drafted)) {
        told.add(account);
      }
    }
    return told.size() == drafted.accounts().size() ? null : told;
  }

  /**
   * {@return why the viewer may not change a thing}, in one sentence; null where they may, as far
   * as rights go, and for what only a draft has
   */
  public @Nullable String cannotChange(Thing thing) {
    Key key = thing.key();
    if (key != null && key.value().startsWith(Supplied.PREFIX)) {
      return "It is supplied and locked. Copy it and change the copy.";
    }
    Catalogue live = state.engine().catalogue();
    Thing now = key == null ? thing : live.find(thing);
    return now == null
        ? null
        : Authority.missing(live, now, readPolicy.viewer(), readPolicy::may)
            .map(this::needs)
            .orElse(null);
  }

  /** {@return that a permission is needed on a place}, as a sentence to whoever lacks it */
  public String needs(PermissionKey permission, ResourceKey place) {
    return needs(new RequiredRight(permission, List.of(place)));
  }

  /** {@return what a demand asks for}, as a sentence to whoever does not meet it */
  private String needs(RequiredRight demand) {
    return "You need " + wanted(demand, text()) + ".";
  }

  /** {@return what a demand asks for}: “Manage people” on Registry */
  public static String wanted(RequiredRight demand, ChangeText text) {
    return "“"
        + text.name(Kind.PERMISSIONS, demand.permission().value())
        + "” on "
        + demand.anyOf().stream().map(text::place).distinct().collect(Collectors.joining(" or "));
  }

  // ---- how things may be spoken of --------------------------------------------------------------

  /** {@return what may be named on pages}: what may be read, and what the viewer holds */
  public Naming naming() {
    Naming known = naming;
    if (known == null) {
      known = remembered(about(List.of(), null, null));
      naming = known;
    }
    return known;
  }

  /** A call asks about the same things again and again. */
  private static Naming remembered(Naming naming) {
    Map<Kind, Map<String, Boolean>> answers = new ConcurrentHashMap<>();
    return (kind, key) -> {
      Map<String, Boolean> ofKind = answers.computeIfAbsent(kind, _ -> new ConcurrentHashMap<>());
      Boolean known = ofKind.get(key);
      if (known == null) {
        known = naming.tells(kind, key);
        ofKind.put(key, known);
      }
      return known;
    };
  }

  /**
   * {@return what may be named in an answer about some principals}: what may be read, and what they
   * or the viewer hold in the model in force
   *
   * @param whom about whom the viewer may ask
   * @param only the accounts of which may be told, or null for all
   * @param answer an access of theirs in the model in force, or null
   */
  public Naming about(
      List<Principal> whom, @Nullable Set<AccountKey> only, @Nullable Access answer) {
    List<Holdings> holders = new ArrayList<>();
    Catalogue live = state.engine().catalogue();
    Principal viewer = live.principals().get(readPolicy.viewer());
    if (viewer != null && readPolicy.isViewer(viewer.key())) {
      holders.add(new Holdings(state.engine(), viewer, readPolicy.now(), null));
    }
    for (Principal it : whom) {
      Principal now = live.principals().get(it.key());
      if (now != null && !readPolicy.isViewer(it.key())) {
        holders.add(new Holdings(state.engine(), now, readPolicy.now(), only));
      }
    }
    return new Visibility(this, holders, answer);
  }

  /** {@return what may be named in a figure of somebody's access in the model in force} */
  public Naming about(Principal whom, @Nullable Set<AccountKey> only, Access answer) {
    return about(List.of(whom), only, answer);
  }

  /**
   * {@return a key that a call names}: of something in the model in force that may be named
   *
   * @throws Problem if there is nothing of it, or it may not be named: both read the same
   */
  public String known(Kind kind, String key) {
    if (state.engine().catalogue().find(kind, key).isEmpty() || !naming().tells(kind, key)) {
      throw Problem.notFound(
          "There is no " + kind.word() + " '" + key + "'. Choose one from the list.");
    }
    return key;
  }

  /** {@return sentences about what differs from the model in force} */
  public ChangeText text() {
    return new ChangeText(state.engine().catalogue(), asked.engine().catalogue(), naming());
  }

  /** {@return sentences about changes between two models} */
  public ChangeText text(Catalogue before, Catalogue after) {
    return new ChangeText(before, after, naming());
  }

  /** {@return sentences about things} */
  public ThingText things() {
    return new ThingText(asked.engine().catalogue(), naming());
  }

  /** {@return routes in words} */
  public RouteText routes() {
    return new RouteText(asked.engine().catalogue(), naming());
  }

  /** {@return whether a thing and all that it names may be named} */
  public boolean tellsAllOf(Thing thing) {
    return References.of(thing).stream().allMatch(it -> naming().tells(it.kind(), it.key()));
  }

  /** {@return whether the viewer may read what a change is about, and all that it names} */
  public boolean tellsAllOf(Change change, Catalogue before) {
    return (change instanceof Change.Added
            || readPolicy.mayRead(change.things().getFirst(), before))
        && change.things().stream().allMatch(this::tellsAllOf);
  }

  // ---- things as documents write them -----------------------------------------------------------

  /**
   * {@return a thing as a document writes it}; in place of the keys of what may not be named stand
   * marks, which {@link #restored} takes back
   */
  public JsonNode json(Thing thing) {
    return References.rewritten(
        Kind.of(thing),
        JSON.readTree(ThingDocument.write(thing)),
        (kind, key) -> naming().tells(kind, key) ? key : mark(kind, key));
  }

  private String mark(Kind kind, String key) {
    return mark(kind.field() + " " + key);
  }

  /** {@return a mark in place of a text that the viewer may not read}, different for each viewer */
  public String mark(String hidden) {
    return MARK + secrets.mark(SECRET, readPolicy.viewer() + " " + hidden).substring(0, 24);
  }

  /**
   * {@return what somebody wrote of a thing, with keys in place of marks}; marks of what the thing
   * does not name stay
   *
   * @param was the thing as it is
   */
  public JsonNode restored(Thing was, JsonNode written) {
    if (!written.toString().contains(MARK)) {
      return written;
    }
    List<References.Reference> named = References.of(was);
    return References.rewritten(
        Kind.of(was),
        written,
        (kind, key) ->
            !key.startsWith(MARK)
                ? key
                : named.stream()
                    .filter(it -> it.kind() == kind && mark(kind, it.key()).equals(key))
                    .map(References.Reference::key)
                    .findFirst()
                    .orElse(key));
  }
}
