using SteadyLintel.Exchange;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>A line of the member schedule as a table for other programs; lengths in metres, in the job's frame.</summary>
public sealed record MemberLine(
    string Source,
    string Level,
    string Class,
    string Name,
    string Section,
    double Length,
    string AxisAt,
    string AxisFrom,
    string CardinalPoint,
    double TopAtStart,
    double TopAtEnd,
    double Bottom,
    double Width,
    double Depth,
    double StartX,
    double StartY,
    double StartZ,
    double EndX,
    double EndY,
    double EndZ,
    string GlobalId
)
{
    /// <summary>The line of a member.</summary>
    public static MemberLine Of(JobMember m, JobState state)
    {
        var b = m.Member;
        return new MemberLine(
            state.Sources[m.Source].Label,
            LevelOf(m, state),
            b.Class,
            b.Name,
            b.Section,
            Round(b.Length),
            b.AxisAt,
            DisplayText.AxisFrom(b.From),
            b.CardinalPoint == 0 ? "" : DisplayText.Number(b.CardinalPoint),
            Round(b.TopAtEnds.Least),
            Round(b.TopAtEnds.Most),
            Round(b.Bottom),
            Round(b.Aside.Size),
            Round(b.Above.Size),
            Round(b.Start.X),
            Round(b.Start.Y),
            Round(b.Start.Z),
            Round(b.End.X),
            Round(b.End.Y),
            Round(b.End.Z),
            b.GlobalId
        );
    }

    /// <summary>The job's storey of a member; empty for none.</summary>
    public static string LevelOf(JobMember m, JobState state) => m.Rung < 0 ? "" : state.Schedule.Rungs[m.Rung].Name;

    private static double Round(double metres) => Math.Round(metres, 4);
}
