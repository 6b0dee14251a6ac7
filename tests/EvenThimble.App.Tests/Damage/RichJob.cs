using System.Globalization;
using System.Text.RegularExpressions;

namespace EvenThimble.App.Tests.Damage;

/// <summary>A job with something of everything that a job can hold, made over HTTP as on the bench.</summary>
internal static class RichJob
{
    /// <summary>Brings lettering, a monogram, a border, a name slot with a roster, an appliqué, cut lines and notes into a job of the demo data.</summary>
    public static async Task FillAsync(HttpClient http, long job)
    {
        async Task<string> Do(string command, params (string Name, string Value)[] values)
        {
            var version = Regex.Match(System.Net.WebUtility.HtmlDecode(await http.GetStringAsync($"/jobs/{job}")), "\"version\":(\\d+)").Groups[1].Value;
            using var answer = await http.PostAsync($"/jobs/{job}/do/{command}", new FormUrlEncodedContent(values.Append(("version", version)).Select(v => KeyValuePair.Create(v.Item1, v.Item2))));
            var said = await answer.Content.ReadAsStringAsync();
            ((int)answer.StatusCode).ShouldBe(200, $"{command}: {said[..Math.Min(said.Length, 2_000)]}");
            return said;
        }

        (string, string)[] letters = [("align", "Centre"), ("lines", "100"), ("words", "100"), ("optical", "true"), ("kerning", "true"), ("ownKerning", "true"), ("way", "automatic")];
        await Do("write", [("text", "Tarn\nHOUSE"), ("font", "Archivo"), ("height", "9"), .. letters]);
        await Do("write", [("text", "HALDEN"), ("font", "Orbit Block"), ("height", "20"), ("setThread", "usual"), .. letters]);
        await Do("monogram", ("letters", "OMB"), ("order", "AsRead"), ("layout", "circle"), ("font", "Archivo"), ("way", "automatic"), ("size", "60"), ("frame", "laurel"), ("form", "AsLetters"), ("gap", "3"), ("letterGap", "1"));
        await Do("border", ("around", "1"), ("frame", "ring"), ("form", "Circle"), ("sides", "AllRound"), ("distance", "5"));
        await Do("take-roster", ("roster", "1"));
        await Do("slot", ("pattern", "{given} {family}"), ("width", "60"), ("height", "9"), ("font", "Archivo"), ("otherFont", ""), ("way", "automatic"), ("align", "Centre"), ("narrow", "85"), ("lines", "100"), ("arc", ""), ("most", ""), ("x", ""), ("y", ""));
        var shaped = await Do("shape", ("shape", "star"), ("width", "40"), ("height", "40"), ("x", "10"), ("y", "20"), ("corners", "5"), ("depth", "50"));
        var star = Regex.Match(System.Net.WebUtility.HtmlDecode(shaped), "data-part=\"(\\d+)\"(?![\\s\\S]*data-part=)").Groups[1].Value;
        await Do("applique", ("parts", star), ("tackDown", "Zigzag"), ("cover", "3"), ("cutBefore", "false"));
        await Do("cut-around", ("parts", "1"));
        await Do("allowance", ("allowance", "2"));
        await Do("copies", ("value", "3"));
        await Do("notes", ("notes", "Iron it first."));
        await Do("hold", ("basting", "AroundTheJob"), ("centreMark", "true"), ("start", "Centre"), ("end", "Centre"));
    }

    /// <summary>The file of such a job, of a server that was begun with the demo data.</summary>
    public static async Task<byte[]> FileAsync()
    {
        await using var server = await Browser.Tests.AppServer.StartAsync(demo: true);
        using var http = new HttpClient { BaseAddress = new(server.Address) };
        http.DefaultRequestHeaders.Add("X-Thimble-Token", Regex.Match(await http.GetStringAsync("/"), "thimble-token\" content=\"([^\"]+)").Groups[1].Value);
        await FillAsync(http, 1);
        return await http.GetByteArrayAsync(string.Create(CultureInfo.InvariantCulture, $"/jobs/{1}/case"));
    }
}
