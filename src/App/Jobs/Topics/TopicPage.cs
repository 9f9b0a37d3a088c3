using SteadyLintel.Store;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>How many topics of a job a reader has to do with.</summary>
/// <param name="Open">Open ones.</param>
/// <param name="Week">Open ones that are due within a week, or late.</param>
/// <param name="Late">Open ones that were due before today.</param>
/// <param name="Mine">Open ones that the reader owes an answer.</param>
/// <param name="Closed">Closed ones.</param>
public sealed record TopicCounts(int Open, int Week, int Late, int Mine, int Closed);

/// <summary>One topic with all that a page shows of it.</summary>
/// <param name="Row">Its row.</param>
/// <param name="Topic">The topic.</param>
/// <param name="Board">What holds for all topics of the job.</param>
/// <param name="Events">What happened to it, the first first.</param>
public sealed record TopicPage(TopicRow Row, Topic Topic, TopicBoard Board, IReadOnlyList<TopicEvent> Events);
