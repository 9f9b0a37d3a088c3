using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>A dash, gap (negative) or dot (0) of a line type, with a shape or text on it where flags say so.</summary>
/// <param name="Length">Length in drawing units (49).</param>
/// <param name="Flags">1 absolute rotation, 2 text, 4 shape (74).</param>
/// <param name="Shape">The number of the shape (75).</param>
/// <param name="Style">The text style or shape file (340).</param>
/// <param name="Scale">Scale of the shape (46).</param>
/// <param name="Rotation">Rotation of the shape, radians (50).</param>
/// <param name="Offset">Offset of the shape (44, 45).</param>
/// <param name="Text">The text (9).</param>
public readonly record struct Dash(
    double Length,
    int Flags = 0,
    int Shape = 0,
    Handle Style = default,
    double Scale = 1,
    double Rotation = 0,
    Vec2 Offset = default,
    string? Text = null
);
