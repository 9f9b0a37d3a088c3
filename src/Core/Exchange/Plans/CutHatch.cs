using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A family of parallel lines of a hatch.</summary>
/// <param name="Degrees">Their direction.</param>
/// <param name="Spacing">From one to the next, millimetres on paper.</param>
/// <param name="Dashes">Dashes and gaps, millimetres on paper; none for continuous lines.</param>
/// <param name="Shift">How far the first lies from the origin, millimetres on paper.</param>
internal readonly record struct HatchFamily(double Degrees, double Spacing, double[] Dashes, double Shift = 0);

/// <summary>How cut faces of a material are hatched.</summary>
/// <param name="Name">The name of the pattern in the drawing.</param>
/// <param name="Words">Words in the names of materials.</param>
/// <param name="Families">Its lines.</param>
/// <remarks>Slanting lines at 45° mean any material (ISO 128-50, 4.2); the others are common practice, from memory. Names of materials
/// are looked through for English and German words.</remarks>
internal sealed record CutHatch(string Name, string[] Words, HatchFamily[] Families)
{
    /// <summary>Any material.</summary>
    public static readonly CutHatch General = new("CUT-GENERAL", [], [new HatchFamily(45, 3, [])]);

    private static readonly CutHatch[] All =
    [
        new("CUT-INSULATION", ["insulation", "wool", "dämm", "foam"], [new(60, 2, []), new(120, 2, [])]),
        new("CUT-CONCRETE", ["concrete", "beton", "screed", "estrich"], [new(45, 4, []), new(45, 4, [2, -1], 2)]),
        new("CUT-MASONRY", ["brick", "masonry", "block", "mauer", "ziegel"], [new(45, 1.5, [])]),
        new("CUT-TIMBER", ["timber", "wood", "holz", "plywood", "larch"], [new(15, 1.2, [])]),
        new("CUT-METAL", ["steel", "stahl", "metal", "alumin"], [new(45, 0.8, []), new(45, 0.8, [], 0.25)]),
        new("CUT-BOARD", ["gypsum", "plaster", "board", "gips"], [new(45, 1.5, [0.5, -1])]),
        new(
            "CUT-GROUND",
            ["earth", "soil", "ground", "gravel", "boden"],
            [new(135, 4, [4, -2]), new(135, 4, [4, -2], 0.8)]
        ),
    ];

    /// <summary>The hatch of a material.</summary>
    /// <param name="material">The material's name; may be empty.</param>
    public static CutHatch Of(string material) =>
        All.FirstOrDefault(h => h.Words.Any(w => material.Contains(w, StringComparison.OrdinalIgnoreCase))) ?? General;

    /// <summary>The hatch as an entity.</summary>
    /// <param name="face">The face, metres.</param>
    /// <param name="units">Drawing units a metre.</param>
    /// <param name="height">Its height, metres.</param>
    /// <param name="scale">The scale the drawing is meant for: 100 for 1:100.</param>
    public Hatch Entity(Region face, double units, double height, int scale)
    {
        var hatch = new Hatch
        {
            Pattern = Name,
            Filled = false,
            PatternKind = 2,
            Elevation = height * units,
            Scale = 1,
        };
        double paper = scale / 1000.0 * units;
        foreach (var family in Families)
        {
            double angle = family.Degrees * Math.PI / 180;
            var across = new Vec2(-Math.Sin(angle), Math.Cos(angle));
            hatch.Lines.Add(
                new HatchLine(
                    angle,
                    across * (family.Shift * paper),
                    across * (family.Spacing * paper),
                    [.. family.Dashes.Select(d => d * paper)]
                )
            );
        }

        foreach (var (loop, n) in face.Loops.Select((l, n) => (l, n)))
        {
            // Polylines; the first one is the outermost.
            var path = new HatchPath { Flags = n == 0 ? 1 | 2 : 2 };
            path.Vertices.AddRange(loop.Select(p => (p * units, 0.0)));
            hatch.Paths.Add(path);
        }

        return hatch;
    }
}
