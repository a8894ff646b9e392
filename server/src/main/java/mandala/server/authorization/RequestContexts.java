package mandala.server.authorization;

import java.time.Instant;
import java.util.List;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import mandala.server.platform.Secrets;
import mandala.server.session.CurrentPrincipal;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;

/** Makes the context of whoever calls. */
@Component
public class RequestContexts {

  private final LiveModel model;
  private final CurrentPrincipal viewer;
  private final History history;
  private final ObjectProvider<Overlay> overlays;
  private final Secrets secrets;
  private final ObjectProvider<UsedRights> used;

  RequestContexts(
      LiveModel model,
      CurrentPrincipal viewer,
      History history,
      ObjectProvider<Overlay> overlays,
      Secrets secrets,
      ObjectProvider<UsedRights> used) {
    this.used = used;
    this.model = model;
    this.viewer = viewer;
    this.history = history;
    this.overlays = overlays;
    this.secrets = secrets;
  }

  /** Lays drafts over the model. */
  public interface Overlay {

    /**
     * {@return the model with a draft laid over it}
     *
     * @param draft its id, or {@code open} for the caller's open one; where that is none, the model
     *     as it is
     * @throws Problem if there is no such draft to the caller's eyes, or it leaves a faulty model
     */
    LiveModel.State with(String draft, LiveModel.State now, ReadPolicy readPolicy);
  }

  /** {@return the context of a session}, outside of any call */
  public RequestContext of(Session session) {
    LiveModel.State state = model.state();
    return new RequestContext(state, state, new ReadPolicy(state.engine(), session), secrets);
  }

  /**
   * {@return the context of somebody who may read and ask all in one account, and nothing
   * elsewhere}: for figures that are the same for everybody who sees them
   */
  public RequestContext ofAccount(LiveModel.State state, AccountKey account, Instant at) {
    return new RequestContext(
        state, state, ReadPolicy.ofAccount(state.engine(), account, at), secrets);
  }

  /** {@return the context of the running call} */
  public RequestContext context() {
    return context(null, null);
  }

  /**
   * {@return the context of the running call}
   *
   * @param draft a draft to lay over the model, or null
   * @param revision the revision to look at, or null for the newest
   * @throws Problem if there is no such revision or draft, or both are named
   */
  public RequestContext context(@Nullable String draft, @Nullable Long revision) {
    Set<AccountKey> within = viewer.within();
    if (within != null && draft != null && !draft.isBlank()) {
      throw Problem.badRequest(
          "A token reads the model in force",
          "A draft is laid over it for people only. Leave out “draft”.");
    }
    return of(viewer.session(), within, used.getIfAvailable(), draft, revision);
  }

  /**
   * {@return the context of a session}, outside of any call
   *
   * @param draft a draft to lay over the model, or null
   * @param revision the revision to look at, or null for the newest
   * @throws Problem if there is no such revision or draft, or both are named
   */
  public RequestContext of(Session session, @Nullable String draft, @Nullable Long revision) {
    return of(session, null, null, draft, revision);
  }

  private RequestContext of(
      Session session,
      @Nullable Set<AccountKey> within,
      @Nullable UsedRights observer,
      @Nullable String draft,
      @Nullable Long revision) {
    LiveModel.State state = model.state();
    ReadPolicy readPolicy = new ReadPolicy(state.engine(), session, within, observer);
    boolean drafted = draft != null && !draft.isBlank();
    if (drafted && revision != null) {
      throw Problem.badRequest(
          "A draft or a revision, not both",
          "A draft is laid over the newest revision. Leave out one.");
    }
    if (revision != null && revision != state.revision()) {
      return new RequestContext(state, past(revision, state), readPolicy, secrets);
    }
    Overlay overlay = drafted ? overlays.getIfAvailable() : null;
    return new RequestContext(
        state,
        overlay == null || draft == null ? state : overlay.with(draft, state, readPolicy),
        readPolicy,
        secrets);
  }

  /**
   * {@return a context of the same model in which somebody is active}: what they will be able to do
   * once they are. The same look where they are active, or are not in the model asked about.
   */
  public RequestContext asActive(RequestContext context, String principal) {
    LiveModel.State asked = context.asked();
    Principal was =
        principal.isBlank()
            ? null
            : asked.engine().catalogue().principals().get(new PrincipalKey(principal));
    if (was == null || was.status() == Principal.Status.ACTIVE) {
      return context;
    }
    Engine engine = asked.engine().after(List.of(new Change.Altered(was, was.activated())));
    return new RequestContext(
        context.state(),
        LiveModel.State.of(asked.revision(), asked.demo(), engine),
        context.readPolicy(),
        secrets);
  }

  private LiveModel.State past(long revision, LiveModel.State now) {
    Engine engine = history.engineAt(revision, now);
    if (engine == null) {
      throw Problem.notFound(
          "There is no revision " + revision + ". Choose one from 1 to " + now.revision() + ".");
    }
    return LiveModel.State.of(revision, now.demo(), engine);
  }
}
