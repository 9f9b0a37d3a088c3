using SteadyLintel.Geometry;

namespace SteadyLintel.Ifc;

/// <summary>Plane curves given by how their curvature grows with their length (ISO 16739-1:2024, IfcSpiral and its subtypes; formulas
/// from
/// memory, checked against series and closed forms in the tests).</summary>
/// <remarks>A polynomial term A of degree n adds sgn(A)·|A|⁻⁽ⁿ⁺¹⁾·sⁿ to the curvature, so that every term is a length.</remarks>
internal sealed class Spiral
{
    private const int FewestPieces = 32,
        MostPieces = 4000;
    private readonly List<(double Coefficient, int Degree)> _polynomial = [];
    private readonly Func<double, double> _wave;

    private Spiral(Func<double, double> wave) => _wave = wave;

    /// <summary>A curvature that is a polynomial of the length.</summary>
    /// <param name="terms">Terms by degree, metres; 0 for one that is not there.</param>
    public static Spiral Polynomial(params IReadOnlyList<double> terms)
    {
        var spiral = new Spiral(_ => 0);
        spiral.AddTerms(terms);
        return spiral;
    }

    /// <summary>Curvature 1/constant + cos(πs/length)/cosine.</summary>
    /// <param name="constant">Of the constant term, metres.</param>
    /// <param name="cosine">Of the cosine term, metres.</param>
    /// <param name="length">Of the whole spiral, metres.</param>
    public static Spiral Cosine(double constant, double cosine, double length)
    {
        var spiral = new Spiral(s => length / (Math.PI * cosine) * Math.Sin(Math.PI * s / length));
        spiral.AddTerms([constant]);
        return spiral;
    }

    /// <summary>Curvature 1/constant + sgn(linear)·s/linear² + sin(2πs/length)/sine.</summary>
    /// <param name="constant">Of the constant term, metres.</param>
    /// <param name="linear">Of the linear term, metres.</param>
    /// <param name="sine">Of the sine term, metres.</param>
    /// <param name="length">Of the whole spiral, metres.</param>
    public static Spiral Sine(double constant, double linear, double sine, double length)
    {
        var spiral = new Spiral(s => length / (2 * Math.PI * sine) * (1 - Math.Cos(2 * Math.PI * s / length)));
        spiral.AddTerms([constant, linear]);
        return spiral;
    }

    /// <summary>The direction after a length, radians from X: the integral of the curvature, in closed form.</summary>
    /// <param name="s">Along the spiral, metres.</param>
    public double Direction(double s)
    {
        double angle = _wave(s);
        foreach (var (coefficient, degree) in _polynomial)
            angle += coefficient * Math.Pow(s, degree + 1) / (degree + 1);
        return angle;
    }

    /// <summary>The point after a length: Simpson's rule over pieces that turn by a tenth of a radian at most.</summary>
    /// <param name="s">Along the spiral, metres.</param>
    public Vec3 Point(double s)
    {
        double turn = Math.Abs(Direction(s)) + Math.Abs(Direction(s / 2));
        int pieces = (int)Math.Clamp(Math.Ceiling(turn * 20), FewestPieces, MostPieces);
        double step = s / pieces,
            x = 0,
            y = 0;
        for (int i = 0; i < pieces; i++)
        {
            double a = Direction(i * step),
                b = Direction((i + 0.5) * step),
                c = Direction((i + 1) * step);
            x += step / 6 * (Math.Cos(a) + (4 * Math.Cos(b)) + Math.Cos(c));
            y += step / 6 * (Math.Sin(a) + (4 * Math.Sin(b)) + Math.Sin(c));
        }

        return double.IsFinite(x + y) ? new Vec3(x, y, 0) : throw new ShapeException("A spiral's terms make no sense.");
    }

    private void AddTerms(IReadOnlyList<double> terms)
    {
        for (int degree = 0; degree < terms.Count; degree++)
            if (terms[degree] != 0)
                _polynomial.Add((Math.Sign(terms[degree]) * Math.Pow(Math.Abs(terms[degree]), -(degree + 1)), degree));
    }
}
