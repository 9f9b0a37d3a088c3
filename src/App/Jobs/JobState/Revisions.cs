using System.Linq.Expressions;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>How sources, deliveries and revisions are read for lists: without reports, which may be long.</summary>
public static class Revisions
{
    /// <summary>A revision with its delivery, without the report.</summary>
    public static readonly Expression<Func<Revision, Revision>> WithoutReport = r => new Revision
    {
        Id = r.Id,
        SourceId = r.SourceId,
        Number = r.Number,
        Kind = r.Kind,
        Elements = r.Elements,
        Findings = r.Findings,
        HasParts = r.HasParts,
        Bodiless = r.Bodiless,
        Rooms = r.Rooms,
        Derived = r.Derived,
        Amendments = r.Amendments,
        Delivery = new Delivery { FileName = r.Delivery.FileName, ReceivedAt = r.Delivery.ReceivedAt },
    };

    /// <summary>Sources that people see: not those that a file made which could not be read.</summary>
    public static readonly Expression<Func<Source, bool>> IsSeen = s =>
        s.Kind != null
        || s.Expected != ""
        || s.Due != null
        || !s.Deliveries.Any()
        || s.Deliveries.Any(d => d.State != DeliveryState.Refused && d.State != DeliveryState.Cancelled);

    /// <summary>A delivery with source, party and revision, without the report.</summary>
    public static readonly Expression<Func<Delivery, Delivery>> Line = d => new Delivery
    {
        Id = d.Id,
        FileName = d.FileName,
        Length = d.Length,
        State = d.State,
        Progress = d.Progress,
        Sentence = d.Sentence,
        HeldFor = d.HeldFor,
        Decision = d.Decision,
        ReceivedAt = d.ReceivedAt,
        ReceivedBy = d.ReceivedBy,
        Beat = d.Beat,
        Revision =
            d.Revision == null
                ? null
                : new Revision
                {
                    Number = d.Revision.Number,
                    Kind = d.Revision.Kind,
                    Elements = d.Revision.Elements,
                    Bodiless = d.Revision.Bodiless,
                    Rooms = d.Revision.Rooms,
                    Findings = d.Revision.Findings,
                },
        Source = new Source
        {
            Name = d.Source.Name,
            PartyId = d.Source.PartyId,
            Party = d.Source.Party,
        },
    };
}
