using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

// Stops, states and evidence.
public static partial class DisplayText
{
    /// <summary>What a setting-out rests on, in words.</summary>
    public static string Evidence(EvidenceKind kind) =>
        kind switch
        {
            EvidenceKind.Declared => "by map conversions",
            EvidenceKind.Points => "by control points",
            EvidenceKind.Grids => "by grid tags",
            EvidenceKind.Levels => "by levels",
            EvidenceKind.Source => "as another source",
            EvidenceKind.Jump => "by taking a jump of its frame back",
            EvidenceKind.Reference => "reference for the job's coordinates",
            _ => "as typed",
        };

    /// <summary>What a stop of the job is for, in a line; null where there is no stop.</summary>
    public static string? What(int stop) =>
        stop switch
        {
            1 =>
                "Files arrive here. Each is stored unchanged, read, and answered with a report: what it is, what it holds, and what is wrong with it.",
            2 =>
                "Every source is placed in the job's frame, unit and levels, with evidence. Nothing moves until it is accepted, and all of it can be undone.",
            3 =>
                "All parties' models together. Switch parties, storeys, classes and layers, cut between two heights with the ladder, measure, and read what an element carries.",
            4 =>
                "Topics ask somebody about what is missing or wrong, with a picture of the place; each names the party that owes the next answer. What can be corrected at once is amended beside the file.",
            5 =>
                "An order says who gets what, in which form. Run it again on every revision; the balance shows that nothing was lost on the way.",
            _ => null,
        };

    /// <summary>What a delivery is doing, in words.</summary>
    public static string State(DeliveryState state) =>
        state switch
        {
            DeliveryState.Receiving => "arriving",
            DeliveryState.Received => "received, waiting",
            DeliveryState.Indexing => "indexing",
            DeliveryState.Reading => "reading",
            DeliveryState.Shaping => "shaping",
            DeliveryState.Storing => "storing",
            DeliveryState.Ready => "ready",
            DeliveryState.Same => "same bytes",
            DeliveryState.Refused => "refused",
            DeliveryState.Held => "held",
            DeliveryState.TurnedDown => "rejected",
            DeliveryState.Withdrawn => "withdrawn",
            _ => "cancelled",
        };
}
