namespace SteadyLintel.Demo;

/// <summary>One file that a party sends.</summary>
/// <param name="Party">The party's code.</param>
/// <param name="Source">What the source is called.</param>
/// <param name="FileName">The file's name.</param>
/// <param name="Write">Writes its bytes, always the same.</param>
public sealed record DemoDelivery(string Party, string Source, string FileName, Action<Stream> Write);

/// <summary>The demo job: a ferry terminal of our own invention.</summary>
public static class HeronWharf
{
    /// <summary>The models the parties sent.</summary>
    public static IReadOnlyList<DemoDelivery> Models { get; } =
    [
        new("ARC", "Architecture", "HW-ARC-terminal.ifc", s => Architecture.Write(s, "2026-11-18T16:05:00")),
        new("STR", "Frame", "HW-STR-frame.ifc", s => Structure.Write(s, "2026-11-14T09:30:00")),
        new("SRV", "Services", "HW-SRV-services.ifc", s => Services.Write(s, "2026-11-21T11:45:00")),
    ];

    /// <summary>The levels that the parties agreed on, metres.</summary>
    public static IReadOnlyList<(string Name, double Elevation)> Levels { get; } =
    [("Foundations", -1.2), .. Site.Levels.Select(l => (l.Name, l.Level))];

    /// <summary>The drawings.</summary>
    public static IReadOnlyList<DemoDelivery> Drawings { get; } =
    [new("STR", "Foundation plan", "HW-STR-S100-foundations.dwg", s => FoundationPlan.Write(s, 2461359.4))];

    /// <summary>The civil engineer's model, at map coordinates; part of the demo that <c>./start</c> loads.</summary>
    public static DemoDelivery QuayWall { get; } =
        new("CIV", "Quay wall", "HW-CIV-quay.ifc", s => Civil.Write(s, "2026-11-10T08:15:00"));

    /// <summary>The frame with the grid that it shares with the architect, one axis misnamed; part of the demo that <c>./start</c>
    /// loads.</summary>
    public static DemoDelivery FrameWithGrid { get; } =
        new("STR", "Frame", "HW-STR-frame.ifc", s => Structure.WriteWithGrid(s, "2026-11-14T09:30:00"));

    /// <summary>Plans of the concourse as three parties draw it, in paper scale, in inches and traced; part of the demo that <c>./start</c>
    /// loads.</summary>
    public static IReadOnlyList<DemoDelivery> Plans { get; } =
    [
        new("ARC", "Concourse plan", "HW-ARC-concourse.dwg", s => ConcoursePlan.Printed(s, 16)),
        new("SRV", "Concourse ducts", "HW-SRV-concourse-ducts.dwg", ConcoursePlan.Ducts),
        new("CIV", "Traced plan", "HW-CIV-traced.dwg", ConcoursePlan.Traced),
    ];

    /// <summary>The architect's sheet with two attached drawings in one archive, and a section; part of the demo that <c>./start</c>
    /// loads.</summary>
    public static IReadOnlyList<DemoDelivery> Sheets { get; } =
    [
        new("ARC", "Concourse sheet", "HW-ARC-A201-concourse.zip", ConcoursePlan.Package),
        new("ARC", "Section A-A", "HW-ARC-section-a.dwg", ConcoursePlan.Section),
    ];

    /// <summary>The architect's plan again, a wall moved.</summary>
    public static DemoDelivery PlanAgain { get; } =
        new("ARC", "Concourse plan", "HW-ARC-concourse-2.dwg", s => ConcoursePlan.Printed(s, 16.5));

    /// <summary>All deliveries.</summary>
    public static IEnumerable<DemoDelivery> Deliveries => Models.Concat(Drawings);
}
