package mandala.server.review;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.List;
import mandala.core.excess.ExcessStudy;
import mandala.core.question.Impact;
import mandala.core.review.ReviewItem;
import mandala.server.excess.ExcessStudies;
import mandala.server.model.LiveModel;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/** Finds the items of a round on a state of the model, with what everybody needs. */
@Component
class RoundBuild {

  private final RoundDesk desk;
  private final ExcessStudies studies;
  private final ZoneId zone;

  RoundBuild(RoundDesk desk, ExcessStudies studies, @Value("${mandala.zone}") ZoneId zone) {
    this.desk = desk;
    this.studies = studies;
    this.zone = zone;
  }

  /** {@return the items of a round}, at an instant */
  List<RoundItem> items(RoundOrder order, LiveModel.State state, Instant at, Impact.Watch watch) {
    RoundMaker maker = maker(order, state, at);
    return maker.rows(maker.found(), study(state, at), watch);
  }

  /** {@return the items of a round that asks about some things only} */
  List<RoundItem> items(
      RoundOrder order,
      List<ReviewItem> only,
      LiveModel.State state,
      Instant at,
      Impact.Watch watch) {
    return maker(order, state, at).rows(only, study(state, at), watch);
  }

  private RoundMaker maker(RoundOrder order, LiveModel.State state, Instant at) {
    Instant now = at.truncatedTo(ChronoUnit.SECONDS);
    return new RoundMaker(
        state.engine(), order, desk.known(order, state.engine().catalogue(), now), now);
  }

  private ExcessStudy study(LiveModel.State state, Instant at) {
    Instant now = at.truncatedTo(ChronoUnit.SECONDS);
    ExcessStudies.Everybody of =
        studies.everybody(state, studies.basis(state, LocalDate.ofInstant(now, zone)), now);
    return state.engine().excess(of.then(), of.use(), of.window());
  }
}
