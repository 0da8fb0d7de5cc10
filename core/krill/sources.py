"""The one bibliography: every correlation and table names a key of it."""

from typing import Final

from krill.errors import UnknownSource

BIBLIOGRAPHY: Final[dict[str, str]] = {
    "borda-carnot": "Borda-Carnot momentum balance of a sudden expansion (closed form)",
    "chang-wang-1997": "Chang & Wang 1997, Int. J. Heat Mass Transfer 40 533: louvred fins (value from memory)",
    "churchill-1977": "Churchill 1977, Chem. Eng. 84(24) 91: friction factor over all regimes",
    "churchill-1977-mixed": "Churchill 1977, AIChE J. 23 10: assisting free and forced convection, joined by cubes",
    "colebrook-1939": "Colebrook 1939, J. Inst. Civ. Eng. 11 133",
    "coolprop": "Tables made with the library CoolProp 8 (IAPWS-95 water, Melinder glycol mixtures, Lemmon air)",
    "cooper-1969": "Cooper, Mikic & Yovanovich 1969; Yovanovich 1981: contact and gap conductance",
    "crane": "Textbook form 0.5 (1 - (d2/d1)^2) of a sudden contraction",
    "common-practice": "Common practice of cooling designers; no published source",
    "energy-sum": "Sum of incoherent sound sources as energies (closed form)",
    "fan-laws": "Affinity laws; sound 50 log n + 70 log d + 20 log rho (common fan-law form)",
    "fourier": "Fourier's law in one dimension (closed form)",
    "gnielinski-1976": "Gnielinski 1976 with Petukhov's friction factor; Incropera eq. 8.62 and 8.21",
    "haaland-1983": "Haaland 1983, J. Fluids Eng. 105 89",
    "huebscher-1948": "Huebscher 1948: round duct of equal friction at equal flow",
    "hydrostatic": "Weight of a column of air at rest (closed form)",
    "iapws-r1-76": "IAPWS R1-76(2014): surface tension of water",
    "idelchik": "Idelchik, Handbook of Hydraulic Resistance: thin plate, wire screen, bodies in a duct (value from memory)",
    "incropera": "Incropera & DeWitt, Fundamentals of Heat and Mass Transfer, 6th/7th edition",
    "jcgm-100": "JCGM 100:2008, Guide to the expression of uncertainty in measurement",
    "kays-london": "Kays & London, Compact Heat Exchangers; Incropera eq. 11.33, 11.34",
    "lee-1995": "Lee, Song, Au & Moran 1995: spreading resistance, equal-area circles",
    "magnus": "Magnus form of the vapour pressure over water; constants of the WMO guide",
    "mason-1955": "Nusselt-Mason series of cross flow, both fluids unmixed (exact)",
    "anodic-index": "Anodic index tables in the style of MIL-STD-889 (value from memory)",
    "memory": "Value from memory; class-typical, no source could be opened",
    "muzychka-2003": "Muzychka, Culham & Yovanovich 2003: eccentric rectangular source on a rectangular plate",
    "rennels-2012": "Rennels & Hudson 2012, Pipe Flow",
    "shah-london-1978": "Shah & London 1978: laminar flow in ducts",
    "swamee-jain-1976": "Swamee & Jain 1976",
    "us-atmosphere-1976": "U.S. Standard Atmosphere 1976 / ISO 2533",
    "yovanovich-1999": "Yovanovich, Muzychka & Culham 1999: spreading in a plate with a convective face",
    "bar-cohen-1984": "Bar-Cohen & Rohsenow 1984, J. Heat Transfer 106 116: channels between plates, optimum spacing",
    "elenbaas-1942": "Elenbaas 1942, Physica 9 1: parallel plates in still air",
    "churchill-chu-1975": "Churchill & Chu 1975, Int. J. Heat Mass Transfer 18 1323 and 1049: upright plates, lying tubes",
    "mcadams": "McAdams; Lloyd & Moran 1974; Incropera eq. 9.30 to 9.32: lying plates; Raithby & Hollands 1998 for thick layers",
    "jones-smith-1970": "Jones & Smith 1970, J. Heat Transfer 92 6: fins upward on a lying base (value from memory)",
    "stefan-boltzmann": "Stefan-Boltzmann law, constant of CODATA 2018",
    "grey-enclosure": "Grey diffuse surfaces in an enclosure (closed form, radiosity, crossed strings)",
    "hottel": "View factor of aligned parallel rectangles; Incropera table 13.2",
    "blake-kozeny": "Blake-Kozeny permeability of packed spheres",
    "chi-1976": "Chi 1976, Heat Pipe Theory and Practice; Faghri 1995",
    "busse-1973": "Busse 1973; Levy 1968: sonic and viscous limits of heat pipes",
    "cotter-1967": "Cotter 1967: entrainment limit of heat pipes",
    "clausius-clapeyron": "Clausius-Clapeyron relation along the saturation line",
    "closed-form": "Closed form (geometry or algebra)",
    "teertstra-2000": "Teertstra, Yovanovich & Culham 2000: plate fin sinks in driven air",
    "muzychka-2009": "Muzychka & Yovanovich 2009: developing laminar flow in ducts",
    "pohlhausen-1921": "Pohlhausen 1921; Incropera eq. 7.30: laminar stream along a flat plate",
    "prasher-2006": "Prasher 2006, Proc. IEEE 94 1571: bond line of pastes (value from memory)",
    "leveque-1928": "Leveque 1928; Incropera eq. 8.57: laminar flow in the thermal entry of a channel, Nu ~ Gz^(1/3)",
    "maxwell-holes": "Maxwell; Rayleigh 1892: conductivity of a sheet with round holes",
    "iso-13732-1": "ISO 13732-1:2006, burn thresholds of skin on hot surfaces (value from memory)",
    "polymer-handbooks": "Polymer handbooks: glass transition bands (value from memory)",
}


def source(key: str) -> str:
    """The full reference of a key; UnknownSource if the bibliography does not hold it."""
    if key not in BIBLIOGRAPHY:
        raise UnknownSource(f"no source '{key}' in the bibliography")
    return BIBLIOGRAPHY[key]
