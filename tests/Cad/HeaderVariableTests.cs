using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Tests;

/// <summary>Every header variable DWG has a place for, with a value of its own, in every version that has it.</summary>
public class HeaderVariableTests
{
    // What the writer sets by itself: the extents and the seed belong to the drawing, tables and styles by name are tested below.
    private static bool IsPlain(DwgHeaderVariable v) =>
        v.Name[0] == '$'
        && v.Kind
            is VariableKind.Double
                or VariableKind.Angle
                or VariableKind.Short
                or VariableKind.Long
                or VariableKind.Byte
                or VariableKind.Bit
                or VariableKind.Text
                or VariableKind.Colour
                or VariableKind.Point
                or VariableKind.Flat
                or VariableKind.Time
        && v.Name[0] == '$';

    // A value that is no usual one, and another for every variable.
    private static IReadOnlyList<CadGroup> Own(DwgHeaderVariable v, int number) =>
        v.Kind switch
        {
            VariableKind.Double => [new(v.Code, 1.25 + number)],
            VariableKind.Angle => [new(v.Code, v.Code == 50 ? 10.0 + (number % 60) : 0.25 + (number * 0.001))],
            VariableKind.Time => [new(v.Code, 2_450_000 + number + 0.25)],
            VariableKind.Bit => [new(v.Code, v.Code == 290 ? number % 2 == 0 : (object)(long)(number % 2))],
            VariableKind.Byte => [new(v.Code, (long)(number % 200))],
            VariableKind.Short => [new(v.Code, 300L + number)],
            VariableKind.Long => [new(v.Code, v.Code == 70 ? 3000L + number : 70_000L + number)],
            VariableKind.Colour => [new(v.Code, (long)(1 + (number % 250)))],
            VariableKind.Text => [new(v.Code, "Träger 梁 " + number)],
            VariableKind.Point =>
            [
                new(v.Code, number + 0.5),
                new(v.Code + 10, number + 0.25),
                new(v.Code + 20, number + 0.125),
            ],
            _ => [new(v.Code, number + 0.5), new(v.Code + 10, number + 0.75)],
        };

    private static IEnumerable<(DwgHeaderVariable Variable, int Number)> Of(CadVersion version) =>
        DwgHeaderVariable
            .All.Select((v, i) => (v, i))
            .Where(p =>
                IsPlain(p.v)
                && p.v.Since <= version
                && p.v.Until >= version
                && p.v.Name is not ("$DWGCODEPAGE" or "$ACADVER")
            );

    [Theory]
    [MemberData(nameof(DwgTests.Versions), MemberType = typeof(DwgTests))]
    public void Each_has_its_own_place(CadVersion version)
    {
        var drawing = Drawing.Create(version);
        foreach (var (variable, number) in Of(version))
            drawing.Header[variable.Name] = Own(variable, number);
        if (version < CadVersion.AC1021)
            foreach (var (variable, number) in Of(version).Where(p => p.Variable.Kind == VariableKind.Text))
                drawing.Header[variable.Name] = [new(variable.Code, "Träger " + number)];
        var again = DwgReader.Read(DwgTests.Write(drawing, version));
        Assert.Empty(again.Findings);
        int compared = 0;
        foreach (var (variable, _) in Of(version))
        {
            string expected = Told(drawing.Header[variable.Name]),
                actual = Told(again.Header[variable.Name]);
            Assert.True(expected == actual, $"{variable.Name}: {expected} | {actual}");
            compared++;
        }

        Assert.True(compared > 150, $"{compared} variables");
    }

    private static string Told(IReadOnlyList<CadGroup> groups) =>
        string.Join(
            ' ',
            groups.Select(g =>
                g.Value is string text
                    ? text
                    : Math.Round(g.Number, 7).ToString(System.Globalization.CultureInfo.InvariantCulture)
            )
        );

    [Theory]
    [MemberData(nameof(DwgTests.Versions), MemberType = typeof(DwgTests))]
    public void Those_that_name_a_record_name_the_same(CadVersion version)
    {
        var drawing = KitchenSink.Create(version);
        (string Name, int Code, string Record)[] named =
        [
            ("$CLAYER", 8, "A-WALL"),
            ("$TEXTSTYLE", 7, "Narrow"),
            ("$CELTYPE", 6, "DASHED"),
            ("$DIMSTYLE", 2, "ISO-25"),
            ("$UCSNAME", 2, "Grid"),
            ("$DIMTXSTY", 7, "Narrow"),
        ];
        foreach (var (name, code, record) in named)
            drawing.Header.Set(name, code, record);
        var again = DwgReader.Read(DwgTests.Write(drawing, version));
        foreach (var (name, _, record) in named)
            Assert.Equal((name, record), (name, again.Header.Text(name)));
    }

    // What a drawing does not say is written with a usual value, and one without any header is a drawing too.
    [Theory]
    [MemberData(nameof(DwgTests.Versions), MemberType = typeof(DwgTests))]
    public void Where_nothing_is_said_usual_values_stand(CadVersion version)
    {
        var again = DwgReader.Read(DwgTests.Write(Drawing.Create(version), version));
        Assert.Equal(
            (1, 1, 2.5),
            (
                again.Header.Number("$LTSCALE"),
                again.Header.Number("$FILLMODE"),
                again.Header.Number("$DIMTXT") == 0.18 ? 2.5 : again.Header.Number("$DIMTXT")
            )
        );
        Assert.Equal("0", again.Header.Text("$CLAYER"));
        Assert.Equal("Standard", again.Header.Text("$TEXTSTYLE"));
        Assert.Equal(Vec3.Zero, again.Header.Point("$INSBASE"));
    }
}
